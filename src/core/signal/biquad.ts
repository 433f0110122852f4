import { arithmetic } from './arithmetic';

/** Second-order section, a0 = 1: y[n] = b0·x[n] + b1·x[n−1] + b2·x[n−2] − a1·y[n−1] − a2·y[n−2]. */
export interface Biquad {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

export const IDENTITY: Biquad = { b0: 1, b1: 0, b2: 0, a1: 0, a2: 0 };

/**
 * Squared magnitude of a section at an angular frequency ω, given as sin²(ω/2).
 * @example
 * squaredMagnitude({ b0: 0.5, b1: 0.5, b2: 0, a1: 0, a2: 0 }, 0.5) // 0.5
 */
export function squaredMagnitude({ b0, b1, b2, a1, a2 }: Biquad, p1: number): number {
  const p0 = 1 - p1;
  const p2 = 4 * p0 * p1;
  const numerator = (b0 + b1 + b2) ** 2 * p0 + (b0 - b1 + b2) ** 2 * p1 - 4 * b0 * b2 * p2;
  const denominator = (1 + a1 + a2) ** 2 * p0 + (1 - a1 + a2) ** 2 * p1 - 4 * a2 * p2;
  return Math.max(0, numerator) / denominator;
}

/**
 * Magnitude (a ratio) of a section at an angular frequency in radians per sample.
 * @example
 * biquadMagnitude({ b0: 0.5, b1: 0.5, b2: 0, a1: 0, a2: 0 }, Math.PI / 2) // 0.7071
 */
export function biquadMagnitude(section: Biquad, radians: number): number {
  return Math.sqrt(squaredMagnitude(section, arithmetic().sin(radians / 2) ** 2));
}

/** The filter that undoes a minimum-phase section. */
export function inverse({ b0, b1, b2, a1, a2 }: Biquad): Biquad {
  return { b0: 1 / b0, b1: a1 / b0, b2: a2 / b0, a1: b1 / b0, a2: b2 / b0 };
}
