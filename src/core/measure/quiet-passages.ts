import { powerDecibels } from '../signal/decibels';

/** What is quieter than this is no music, in dB of the mean square. */
const SILENT_DB = -100;
const LENGTH_SECONDS = 2;
const STEP_SECONDS = 0.5;

/** A stretch of a track in frames. */
interface Stretch {
  start: number;
  end: number;
}

/**
 * The quietest 2 s of a track that are not silent, by their loudest half second, and its last 2 s before silence, where it
 * fades; null for a track that is shorter or silent.
 */
export function quietPassages({
  left,
  right,
  sampleRate,
}: {
  left: Float32Array;
  right: Float32Array;
  /** Hz */
  sampleRate: number;
}): { quietest: Stretch; end: Stretch } | null {
  const step = Math.round(STEP_SECONDS * sampleRate);
  const steps = LENGTH_SECONDS / STEP_SECONDS;
  const powers = Array.from({ length: Math.floor(left.length / step) }, (_, i) => {
    let sum = 0;
    for (let k = i * step; k < (i + 1) * step; k++) sum += left[k] * left[k] + right[k] * right[k];
    return sum / (2 * step);
  });
  const audible = (power: number) => powerDecibels(power) > SILENT_DB;
  const last = powers.findLastIndex(audible);
  if (last < steps - 1) return null;
  let best: { from: number; power: number } | null = null;
  for (let from = 0; from + steps <= last + 1; from++) {
    const within = powers.slice(from, from + steps);
    const power = Math.max(...within);
    if (within.every(audible) && (!best || power < best.power)) best = { from, power };
  }
  const stretch = (from: number) => ({ start: from * step, end: (from + steps) * step });
  const end = stretch(last - steps + 1);
  return { quietest: best ? stretch(best.from) : end, end };
}
