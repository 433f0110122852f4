import { arithmetic } from './arithmetic';

/**
 * Analogue second-order prototype (n2·s² + n1·s + n0) / (d2·s² + d1·s + d0) with s in units of the corner or centre
 * frequency: the prototypes of the Audio EQ Cookbook (R. Bristow-Johnson, W3C note; from memory).
 */
export interface Prototype {
  n2: number;
  n1: number;
  n0: number;
  d2: number;
  d1: number;
  d0: number;
}

/** Square root of the amplitude gain: the cookbook's A. */
function rootGain(gainDb: number): number {
  return arithmetic().pow(10, gainDb / 40);
}

/**
 * Bell with its gain at the centre and Q at the half-gain edges: (s² + s·A/Q + 1) / (s² + s/(A·Q) + 1).
 * @example
 * prototypeMagnitude(bellPrototype(6, 1), 1) // 1.9953
 */
export function bellPrototype(gainDb: number, q: number): Prototype {
  const a = rootGain(gainDb);
  return { n2: 1, n1: a / q, n0: 1, d2: 1, d1: 1 / (a * q), d0: 1 };
}

/**
 * Low shelf: A·(s² + s·√A/Q + A) / (A·s² + s·√A/Q + 1).
 * @example
 * prototypeMagnitude(lowShelfPrototype(6, 0.71), 0) // 1.9953
 */
export function lowShelfPrototype(gainDb: number, q: number): Prototype {
  const a = rootGain(gainDb);
  const damping = Math.sqrt(a) / q;
  return { n2: a, n1: a * damping, n0: a * a, d2: a, d1: damping, d0: 1 };
}

/**
 * High shelf: A·(A·s² + s·√A/Q + 1) / (s² + s·√A/Q + A).
 * @example
 * prototypeMagnitude(highShelfPrototype(6, 0.71), 0) // 1
 */
export function highShelfPrototype(gainDb: number, q: number): Prototype {
  const a = rootGain(gainDb);
  const damping = Math.sqrt(a) / q;
  return { n2: a * a, n1: a * damping, n0: a, d2: 1, d1: damping, d0: a };
}

/**
 * High-pass of 12 dB/octave: s² / (s² + s/Q + 1); Q at its corner.
 * @example
 * prototypeMagnitude(highPassPrototype(Math.SQRT1_2), 1) // 0.7071
 */
export function highPassPrototype(q: number): Prototype {
  return { n2: 1, n1: 0, n0: 0, d2: 1, d1: 1 / q, d0: 1 };
}

/**
 * Low-pass of 12 dB/octave: 1 / (s² + s/Q + 1); Q at its corner.
 * @example
 * prototypeMagnitude(lowPassPrototype(2), 1) // 2
 */
export function lowPassPrototype(q: number): Prototype {
  return { n2: 0, n1: 0, n0: 1, d2: 1, d1: 1 / q, d0: 1 };
}

/**
 * Band-pass, 0 dB at its centre: (s/Q) / (s² + s/Q + 1).
 * @example
 * prototypeMagnitude(bandPassPrototype(4), 1) // 1
 */
export function bandPassPrototype(q: number): Prototype {
  return { n2: 0, n1: 1 / q, n0: 0, d2: 1, d1: 1 / q, d0: 1 };
}

/**
 * Notch, silent at its centre and 0 dB far from it: (s² + 1) / (s² + s/Q + 1).
 * @example
 * prototypeMagnitude(notchPrototype(4), 1) // 0
 */
export function notchPrototype(q: number): Prototype {
  return { n2: 1, n1: 0, n0: 1, d2: 1, d1: 1 / q, d0: 1 };
}

/**
 * (A·s + 1) / (s + A): −gain below the pivot, +gain above.
 * @example
 * prototypeMagnitude(tiltPrototype(6), 1) // 1
 */
export function tiltPrototype(gainDb: number): Prototype {
  const a = arithmetic().pow(10, gainDb / 20);
  return { n2: 0, n1: a, n0: 1, d2: 0, d1: 1, d0: a };
}

/** 1 / (s + 1) and s / (s + 1). */
export const FIRST_LOW_PASS: Prototype = { n2: 0, n1: 0, n0: 1, d2: 0, d1: 1, d0: 1 };
export const FIRST_HIGH_PASS: Prototype = { n2: 0, n1: 1, n0: 0, d2: 0, d1: 1, d0: 1 };

/**
 * Magnitude (a ratio) at a frequency relative to the corner or centre.
 * @example
 * prototypeMagnitude(lowPassPrototype(Math.SQRT1_2), 2) // 0.2425
 */
export function prototypeMagnitude({ n2, n1, n0, d2, d1, d0 }: Prototype, ratio: number): number {
  const square = ratio * ratio;
  const numerator = (n0 - n2 * square) ** 2 + n1 * n1 * square;
  const denominator = (d0 - d2 * square) ** 2 + d1 * d1 * square;
  return Math.sqrt(numerator / denominator);
}
