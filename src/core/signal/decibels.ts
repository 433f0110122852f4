import { arithmetic } from './arithmetic';

/** Levels below this are reported as −∞. */
const FLOOR = 1e-10;

/**
 * Amplitude ratio of a level in dB; −∞ gives 0.
 * @example
 * amplitude(-6) // 0.501
 */
export function amplitude(db: number): number {
  return db === -Infinity ? 0 : arithmetic().pow(10, db / 20);
}

/**
 * Level in dB of an amplitude ratio; −∞ below −200 dB.
 * @example
 * decibels(0.5) // -6.02
 */
export function decibels(ratio: number): number {
  return ratio < FLOOR ? -Infinity : (20 * arithmetic().log(ratio)) / Math.LN10;
}

/**
 * Level in dB of a power ratio; −∞ below −200 dB.
 * @example
 * powerDecibels(0.5) // -3.01
 */
export function powerDecibels(ratio: number): number {
  return ratio < FLOOR * FLOOR ? -Infinity : (10 * arithmetic().log(ratio)) / Math.LN10;
}
