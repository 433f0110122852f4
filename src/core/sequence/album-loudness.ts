import { z } from 'zod';
import { integratedLoudness } from '../measure/loudness-statistics';

const FLOOR_LUFS = -70;
const TOP_LUFS = 20;
/** Width of a class in LU: its rounding moves the loudness of an album by less than a hundredth. */
const CLASS_LU = 0.05;
const CLASSES = Math.round((TOP_LUFS - FLOOR_LUFS) / CLASS_LU);

/**
 * How many gating blocks of a programme had which loudness: all that its integrated loudness depends on, and that of several
 * together. `counts[i]` is that of the class `first + i`, each of 0.05 LU from −70 LUFS up.
 */
export const loudnessCountsSchema = z.object({
  first: z.int().min(0).max(CLASSES),
  counts: z.array(z.int().min(0)).max(CLASSES),
});
export type LoudnessCounts = z.infer<typeof loudnessCountsSchema>;

/** Counts momentary loudness in LUFS each 100 ms: the gating blocks of ITU-R BS.1770. */
export function loudnessCounts(momentary: Float32Array): LoudnessCounts {
  const all = new Uint32Array(CLASSES);
  for (const lufs of momentary)
    if (lufs > FLOOR_LUFS) all[Math.min(CLASSES - 1, Math.floor((lufs - FLOOR_LUFS) / CLASS_LU))]++;
  const first = all.findIndex((count) => count > 0);
  if (first < 0) return { first: 0, counts: [] };
  return { first, counts: Array.from(all.subarray(first, all.findLastIndex((count) => count > 0) + 1)) };
}

/**
 * Integrated loudness in LUFS of programmes one after the other, as one (ITU-R BS.1770 over all of them; AES TD1008: album
 * loudness); −∞ where nothing passes the gates.
 *
 * @example
 *   albumLoudness([]) // -Infinity
 */
export function albumLoudness(programmes: readonly LoudnessCounts[]): number {
  const energies: number[] = [];
  for (const { first, counts } of programmes)
    counts.forEach((count, i) => {
      const lufs = FLOOR_LUFS + (first + i + 0.5) * CLASS_LU;
      const energy = 10 ** ((lufs + 0.691) / 10);
      for (let n = 0; n < count; n++) energies.push(energy);
    });
  return integratedLoudness(Float64Array.from(energies));
}
