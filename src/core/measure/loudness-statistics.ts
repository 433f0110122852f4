import { powerDecibels } from '../signal/decibels';

/** Hops of 10 ms: momentary loudness spans 40 of them, short-term 300; gating blocks start every 10. */
export const HOPS_PER_SECOND = 100;
export const MOMENTARY_HOPS = 40;
export const SHORT_TERM_HOPS = 300;
export const BLOCK_STEP_HOPS = 10;

/**
 * Loudness in LUFS of a mean K-weighted energy summed over the channels (ITU-R BS.1770: −0.691 + 10·log10).
 * @example
 * loudness(0.5) // -3.70
 */
export function loudness(energy: number): number {
  return energy <= 1e-12 ? -Infinity : -0.691 + powerDecibels(energy);
}

/** Mean energies over `span` hops, one for each `step` hops, of complete spans only. */
function windowMeans(hops: Float64Array, span: number, step: number): Float64Array {
  const count = hops.length < span ? 0 : Math.floor((hops.length - span) / step) + 1;
  const sums = new Float64Array(hops.length + 1);
  for (let k = 0; k < hops.length; k++) sums[k + 1] = sums[k] + hops[k];
  return Float64Array.from({ length: count }, (_, i) => Math.max(0, sums[i * step + span] - sums[i * step]) / span);
}

/** Mean of the values above a gate, or 0 when there are none. */
function gatedMean(energies: Float64Array, gateLufs: number): number {
  let sum = 0;
  let count = 0;
  for (const energy of energies) {
    if (loudness(energy) > gateLufs) {
      sum += energy;
      count++;
    }
  }
  return count === 0 ? 0 : sum / count;
}

const ABSOLUTE_GATE = -70;

/**
 * Integrated loudness (LUFS) of 400 ms block energies: gates −70 LUFS absolute, −10 LU relative (ITU-R BS.1770-4).
 * @example
 * integratedLoudness(Float64Array.of(0.01, 0.01, 0.0001)) // -20.69
 */
export function integratedLoudness(blocks: Float64Array): number {
  const relative = loudness(gatedMean(blocks, ABSOLUTE_GATE)) - 10;
  return loudness(gatedMean(blocks, Math.max(ABSOLUTE_GATE, relative)));
}

/**
 * Loudness range (LU) of short-term energies: gates −70 LUFS absolute, −20 LU relative; from the 10th to the 95th
 * percentile (EBU Tech 3342). 0 when nothing passes the gates.
 * @public
 * @example
 * loudnessRange(Float64Array.of(0.01, 0.01, 0.1, 0.1)) // 10
 */
export function loudnessRange(shortTerm: Float64Array): number {
  const relative = loudness(gatedMean(shortTerm, ABSOLUTE_GATE)) - 20;
  const kept = Array.from(shortTerm, loudness)
    .filter((value) => value > ABSOLUTE_GATE && value > relative)
    .sort((a, b) => a - b);
  if (kept.length === 0) return 0;
  const percentile = (share: number) => kept[Math.round((kept.length - 1) * share)];
  return percentile(0.95) - percentile(0.1);
}

/** What a whole track's loudness was. */
export interface LoudnessReport {
  /** LUFS; −∞ where nothing passes the gates. */
  integrated: number;
  maxMomentary: number;
  /** −∞ for programmes shorter than 3 s. */
  maxShortTerm: number;
  /** LU */
  range: number;
  /** LUFS, one value each 100 ms; value i ends at (i + 1)·0.1 s, and is −∞ before a whole window has passed. */
  momentary: Float32Array;
  shortTerm: Float32Array;
}

function series(means: Float64Array, hops: number, span: number): Float32Array {
  const values = new Float32Array(Math.floor(hops / BLOCK_STEP_HOPS)).fill(-Infinity);
  const first = span / BLOCK_STEP_HOPS - 1;
  means.forEach((energy, i) => (values[first + i] = loudness(energy)));
  return values;
}

/** Everything that follows from the mean K-weighted energies of a programme's complete hops. */
export function loudnessReport(hops: Float64Array): LoudnessReport {
  const blocks = windowMeans(hops, MOMENTARY_HOPS, BLOCK_STEP_HOPS);
  const shortTerm = windowMeans(hops, SHORT_TERM_HOPS, BLOCK_STEP_HOPS);
  const highest = (means: Float64Array) => loudness(means.reduce((a, b) => Math.max(a, b), 0));
  return {
    integrated: integratedLoudness(blocks),
    maxMomentary: highest(windowMeans(hops, MOMENTARY_HOPS, 1)),
    maxShortTerm: highest(windowMeans(hops, SHORT_TERM_HOPS, 1)),
    range: loudnessRange(shortTerm),
    momentary: series(blocks, hops.length, MOMENTARY_HOPS),
    shortTerm: series(shortTerm, hops.length, SHORT_TERM_HOPS),
  };
}

/** Second at which the loudest three seconds end, of short-term loudness in LUFS each 100 ms. */
export function loudestEnd(shortTerm: Float32Array): number {
  let loudest = 0;
  for (let i = 1; i < shortTerm.length; i++) if (shortTerm[i] > shortTerm[loudest]) loudest = i;
  return (loudest + 1) / HOPS_PER_SECOND;
}
