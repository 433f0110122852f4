import { arithmetic } from './arithmetic';
import type { Biquad } from './biquad';

/** The sections of one crossover: `low` and `high` are each applied twice, and what both then sum to is `allPass`. */
export interface Crossover {
  low: Biquad;
  high: Biquad;
  allPass: Biquad;
}

/**
 * Linkwitz–Riley crossover of the 4th order at an angular frequency in radians per sample: Butterworth sections of the 2nd
 * order by the bilinear transform, −6.02 dB each at the crossover, their sum an all-pass exactly (S. Linkwitz, "Active
 * Crossover Networks for Noncoincident Drivers", JAES 1976; from memory).
 * @example
 * biquadMagnitude(linkwitzRiley(0.1).low, 0.1) ** 2 // 0.5
 */
export function linkwitzRiley(radians: number): Crossover {
  const { sin, cos } = arithmetic();
  const c = cos(radians);
  const alpha = sin(radians) * Math.SQRT1_2;
  const a0 = 1 + alpha;
  const poles = { a1: (-2 * c) / a0, a2: (1 - alpha) / a0 };
  const low = (1 - c) / 2 / a0;
  const high = (1 + c) / 2 / a0;
  return {
    low: { b0: low, b1: 2 * low, b2: low, ...poles },
    high: { b0: high, b1: -2 * high, b2: high, ...poles },
    allPass: { b0: poles.a2, b1: poles.a1, b2: 1, ...poles },
  };
}

/**
 * Magnitude of what a Linkwitz–Riley crossover of the 4th order passes below, without its phase: 1 / (1 + r⁴) at a
 * frequency r times its own. What it passes above is 1 minus this.
 * @example
 * lowMagnitude(2) // 0.0588
 */
export function lowMagnitude(ratio: number): number {
  // A square of a square: engines may round powers differently.
  const square = ratio * ratio;
  return 1 / (1 + square * square);
}
