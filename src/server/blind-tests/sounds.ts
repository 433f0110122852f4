import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { sourceLevel } from '../../engine/measure/source-level';

type SourceLevel = ReturnType<typeof sourceLevel>;

/** Loudness counts as equal within this, in LU. */
const EQUAL_LU = 0.1;
/** A step of 24 bits. */
const STEP = 2 ** -23;

/** Interleaved stereo floats of a stored sound. */
export async function soundOf(file: string): Promise<Float32Array> {
  return new Float32Array(Uint8Array.from(await readFile(file)).buffer);
}

/** Level of a sound at a sample rate in Hz. */
export function levelOf(samples: Float32Array, sampleRate: number): SourceLevel {
  const frames = samples.length / 2;
  const channel = (offset: number) => Float32Array.from({ length: frames }, (_, i) => samples[2 * i + offset]);
  return sourceLevel({ left: channel(0), right: channel(1), sampleRate }, { start: 0, end: frames });
}

/** Why sounds can't be compared blindly, as a sentence; null when they are equally loud. */
export function unequal(names: readonly string[], levels: readonly SourceLevel[]): string | null {
  const loudness = levels.map(({ integratedLufs }) => integratedLufs);
  if (!loudness.every(Number.isFinite)) return 'A candidate is silent in this passage. Choose another passage.';
  const [most, least] = [Math.max(...loudness), Math.min(...loudness)];
  if (most - least <= EQUAL_LU) return null;
  const name = (lufs: number) => names[loudness.indexOf(lufs)];
  return `“${name(most)}” is ${(most - least).toFixed(2)} LU louder than “${name(least)}” in this passage; louder always sounds better. Match candidates by the loudness of the loop and start again.`;
}

/**
 * A sound as it is sent: with dither of its own, at the last of 24 bits, so that no two answers are alike and none can be
 * known by its bytes.
 */
export function masked(samples: Float32Array): Float32Array {
  const noise = new Uint32Array(Uint8Array.from(randomBytes(samples.length * 4)).buffer);
  return samples.map((x, i) => {
    const [high, low] = [noise[i] >>> 16, noise[i] & 0xffff];
    return x + (STEP * (high - low)) / 65536;
  });
}
