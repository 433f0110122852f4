import type { Loop } from '../../../engine/live/protocol';
import type { LevelRunner } from '../../../engine/measure/level-runner';
import { sharedChannel } from '../../../engine/measure/worker-runner';
import { matchGains, type SourceLevel } from '../../../engine/sources/level-match';
import type { StereoBuffer } from '../../../engine/sources/places';
import { placeOf, type SourcePlace } from '../../../engine/sources/source-place';

/** A candidate as it is heard in a passage: what it plays from, and where that stands. */
export interface HeardCandidate {
  name: string;
  buffer: StereoBuffer;
  place: SourcePlace;
}

/** A passage of a candidate on its own; silent where the candidate has nothing. */
export function passageOf({ buffer, place }: HeardCandidate, { start, end }: Loop): StereoBuffer {
  const [left, right] = [new Float32Array(end - start), new Float32Array(end - start)];
  for (let i = 0; i < left.length; i++) {
    const at = placeOf(start + i, place);
    if (at < 0 || at >= buffer.left.length) continue;
    left[i] = buffer.left[at];
    right[i] = buffer.right[at];
  }
  return { left, right };
}

/** Both channels in turn, as bytes of 32-bit floats, with a gain in dB. */
function interleaved({ left, right }: StereoBuffer, gainDb: number): Uint8Array<ArrayBuffer> {
  const gain = 10 ** (gainDb / 20);
  const samples = new Float32Array(2 * left.length);
  for (let i = 0; i < left.length; i++) {
    samples[2 * i] = gain * left[i];
    samples[2 * i + 1] = gain * right[i];
  }
  return new Uint8Array(samples.buffer);
}

/** The channels of interleaved 32-bit floats, where the worklet can read them. */
export function separated(bytes: Uint8Array): StereoBuffer {
  const samples = new Float32Array(Uint8Array.from(bytes).buffer);
  const [left, right] = [sharedChannel(samples.length / 2), sharedChannel(samples.length / 2)];
  for (let i = 0; i < left.length; i++) {
    left[i] = samples[2 * i];
    right[i] = samples[2 * i + 1];
  }
  return { left, right };
}

/** The passage of each candidate as it is sent: all equally loud, none raised over full scale. */
export async function equallyLoud(
  candidates: readonly HeardCandidate[],
  passage: Loop,
  sampleRate: number,
  runner: Pick<LevelRunner, 'measure'>,
): Promise<Uint8Array<ArrayBuffer>[]> {
  const sounds = candidates.map((candidate) => passageOf(candidate, passage));
  const levels: Record<string, SourceLevel> = {};
  for (const [i, sound] of sounds.entries())
    levels[i] = await runner.measure({ ...sound, sampleRate }, { start: 0, end: sound.left.length });
  const gainsDb = matchGains(levels, 'loop');
  return sounds.map((sound, i) => interleaved(sound, gainsDb[i]));
}
