import { rm, stat } from 'node:fs/promises';
import { crossfade } from '../../core/sequence/assemble';
import { discFramesOf } from '../../core/sequence/disc';
import { framesOfDisc, placeTracks, type Joint, type PlacedTrack } from '../../core/sequence/joint';
import type { AudioStore } from '../store/audio-store';
import type { KeptWork } from '../store/kept-work';
import { decodeImpulses, requireImpulses, type StoredImpulse } from '../impulses/impulses';
import type { FinishedFileOrder } from '../render/finished-file';
import { runLane, samplesOf } from '../render/lane-run';
import { atLevel } from '../render/level';
import { BYTES_PER_FRAME, fromFile, silence, writeRaw } from '../render/raw';
import { converted } from '../render/convert';

/** One track as an image is made from it. */
export interface ImagePart extends Pick<FinishedFileOrder, 'mix' | 'lane' | 'impulseHashes' | 'levelDb'> {
  workingHash: string;
  impulses: Record<string, StoredImpulse>;
  title: string;
  artist: string;
  isrc: string;
  versionName: string;
  joint: Joint;
}

/** Renders one track at the rate of the image into `target`. */
async function renderPart(
  store: AudioStore,
  part: ImagePart,
  rate: number,
  target: string,
  onProgress: (share: number) => void,
): Promise<void> {
  const { mix, lane, workingHash } = part;
  const impulses = await decodeImpulses(part.impulses, (hash) => store.locate(hash), mix.sampleRate);
  requireImpulses(lane, impulses);
  const options = {
    ...{ input: await store.locate(workingHash), channels: mix.channels, inputRate: mix.sampleRate },
    ...{ frames: mix.frames, lane, impulses },
  };
  const own = `${target}.lane`;
  try {
    const run = await runLane(options, own, onProgress);
    const levelled = atLevel(samplesOf(run, options), part.levelDb);
    const samples = mix.sampleRate === rate ? levelled : converted(levelled, mix.sampleRate, rate);
    await writeRaw(samples, target);
  } finally {
    await rm(own, { force: true });
  }
}

/** Whatever decides the samples of a rendered track, before others join it. */
export function madeFrom({ mix, workingHash, lane, impulseHashes, levelDb }: ImagePart): unknown {
  return [mix, workingHash, lane, impulseHashes, levelDb];
}

/** The file of a rendered track, which is made unless it was before. */
function keptPart(
  kept: KeptWork,
  store: AudioStore,
  part: ImagePart,
  rate: number,
  onProgress: (share: number) => void,
): Promise<string> {
  return kept.file([rate, madeFrom(part)], (target) => renderPart(store, part, rate, target, onProgress));
}

/** A whole release in one signal: its tracks are rendered one after the other, each as the one before it ends. */
export class ImageAssembly {
  /** Where the tracks lie, as far as they have been given. */
  placed: PlacedTrack[] = [];

  /** `rate` of the image in Hz; `changesDb` are levels that its tracks are given besides their own, once they are rendered. */
  constructor(
    private readonly store: AudioStore,
    private readonly kept: KeptWork,
    private readonly parts: readonly ImagePart[],
    private readonly rate: number,
    private readonly changesDb: readonly number[] = [],
  ) {}

  /** Interleaved float64; `onProgress` is told the share that is done. */
  async *samples(onProgress: (share: number) => void): AsyncGenerator<Float64Array> {
    const { parts, rate } = this;
    const lengths: { frames: number; joint: Joint }[] = [];
    /** The end of the track before, which the next one may begin over. */
    let held = new Float64Array(0);
    let given = 0;
    for (const [i, part] of parts.entries()) {
      const tell = (share: number) => onProgress((i + share) / parts.length);
      const file = await keptPart(this.kept, this.store, part, rate, tell);
      const frames = (await stat(file)).size / BYTES_PER_FRAME;
      lengths.push({ frames, joint: part.joint });
      this.placed = placeTracks(lengths, rate);
      const { start, end, overlap } = this.placed[i];
      // What of the track before is not overlapped goes out first, then the pause.
      const alone = held.length / 2 - overlap;
      yield held.subarray(0, 2 * alone);
      given += alone;
      yield* silence(start - given);
      given = Math.max(given, start);
      const next = parts.at(i + 1)?.joint;
      const kept = next?.kind === 'crossfade' ? Math.min(frames - overlap, framesOfDisc(next.discFrames, rate)) : 0;
      const over = held.subarray(2 * alone);
      const head = new Float64Array(2 * overlap);
      held = new Float64Array(2 * kept);
      const body = frames - kept;
      let at = 0;
      for await (const chunk of atLevel(fromFile(file), this.changesDb.at(i) ?? 0)) {
        const count = chunk.length / 2;
        const from = Math.max(0, Math.min(count, overlap - at));
        if (from > 0) {
          head.set(chunk.subarray(0, 2 * from), 2 * at);
          if (at + from === overlap) {
            crossfade(over, head, part.joint.kind === 'crossfade' ? part.joint.shape : 'linear');
            yield over;
          }
        }
        const to = Math.max(from, Math.min(count, body - at));
        if (to > from) yield chunk.subarray(2 * from, 2 * to);
        if (to < count) held.set(chunk.subarray(2 * to), 2 * (at + to - body));
        at += count;
      }
      given = end - kept;
    }
    // What is left after the last track fills its last frame of a disc.
    yield* silence(framesOfDisc(discFramesOf({ tracks: this.placed, sampleRate: rate }), rate) - given);
  }
}
