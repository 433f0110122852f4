import { arithmetic } from './arithmetic';
import type { Biquad } from './biquad';
import { prototypeMagnitude, type Prototype } from './prototype';

/**
 * Digital section that follows an analogue prototype up to the Nyquist frequency, after M. Vicanek, "Matched Second Order
 * Digital Filters" (2016): poles by impulse invariance, numerator from the prototype's magnitude at 0 Hz, at the Nyquist
 * frequency and at the corner, where the match is exact. A high-pass keeps its double zero at 0 Hz instead.
 * `radians` is the corner or centre frequency in radians per sample, in (0, π).
 * @example
 * biquadMagnitude(matched(lowPassPrototype(Math.SQRT1_2), 0.5), 0.5) // 0.7071
 */
export function matched(prototype: Prototype, radians: number): Biquad {
  const { sin, cos, exp } = arithmetic();
  const { d2, d1, d0, n1, n0 } = prototype;
  const pole = radians * Math.sqrt(d0 / d2);
  const damping = d1 / (2 * Math.sqrt(d0 * d2));
  const a1 =
    damping <= 1
      ? -2 * exp(-damping * pole) * cos(Math.sqrt(1 - damping * damping) * pole)
      : -(
          exp((Math.sqrt(damping * damping - 1) - damping) * pole) +
          exp((-Math.sqrt(damping * damping - 1) - damping) * pole)
        );
  const a2 = exp(-2 * damping * pole);

  const half = sin(radians / 2);
  const p1 = half * half;
  const p0 = 1 - p1;
  const p2 = 4 * p0 * p1;
  const poles0 = (1 + a1 + a2) ** 2;
  const poles1 = (1 - a1 + a2) ** 2;
  const atCorner = prototypeMagnitude(prototype, 1) ** 2 * (poles0 * p0 + poles1 * p1 - 4 * a2 * p2);

  if (n0 === 0 && n1 === 0) {
    const b0 = Math.sqrt(atCorner) / (4 * p1);
    return { b0, b1: -2 * b0, b2: b0, a1, a2 };
  }
  const zero = Math.sqrt(poles0) * prototypeMagnitude(prototype, 0);
  const nyquist = Math.sqrt(poles1) * prototypeMagnitude(prototype, Math.PI / radians);
  const product = (atCorner - zero * zero * p0 - nyquist * nyquist * p1) / p2;
  const mean = (zero + nyquist) / 2;
  const b0 = (mean + Math.sqrt(Math.max(0, mean * mean + product))) / 2;
  return { b0, b1: (zero - nyquist) / 2, b2: -product / (4 * b0), a1, a2 };
}

/** Coefficients of the minimum-phase polynomial whose squared magnitude is x0·cos²(ω/2) + x1·sin²(ω/2) + x2·sin²(ω). */
function minimumPhase(x0: number, x1: number, x2: number): [number, number, number] {
  const mean = (Math.sqrt(x0) + Math.sqrt(x1)) / 2;
  const first = (mean + Math.sqrt(Math.max(0, mean * mean + x2))) / 2;
  return [first, (Math.sqrt(x0) - Math.sqrt(x1)) / 2, -x2 / (4 * first)];
}

/**
 * Digital bell that has the magnitude of its prototype at five frequencies: 0 Hz, the Nyquist frequency, the centre and
 * the edges of its bandwidth. The squared magnitudes of numerator and denominator are linear in their coefficients over
 * the basis of M. Vicanek (2016), so five values determine all five; wide bells near Nyquist come closer to the analogue
 * curve than with poles by impulse invariance. `radians` is the centre in radians per sample, in (0, π).
 * @example
 * biquadMagnitude(matchedBell(bellPrototype(6, 1), 1, 1), 1) // 1.9953
 */
export function matchedBell(prototype: Prototype, radians: number, q: number): Biquad {
  const { sin } = arithmetic();
  const half = 1 / (2 * q);
  const middle = Math.sqrt(1 + half * half);
  // The upper edge of a wide bell may lie beyond Nyquist: half the way there takes its place.
  const points = [radians, radians * (middle - half), Math.min(radians * (middle + half), (radians + Math.PI) / 2)];
  const atZero = prototypeMagnitude(prototype, 0) ** 2;
  const atNyquist = prototypeMagnitude(prototype, Math.PI / radians) ** 2;
  // One row a point: a·A1 + b·B2 + c·A2 = d, with A0 = 1, B0 = |H(0)|² and B1 = A1·|H(π)|².
  const rows = points.map((w) => {
    const phi1 = sin(w / 2) ** 2;
    const phi2 = 4 * (1 - phi1) * phi1;
    const square = prototypeMagnitude(prototype, w / radians) ** 2;
    return [phi1 * (atNyquist - square), phi2, -square * phi2, (square - atZero) * (1 - phi1)];
  });
  const determinant = (i: number, j: number, k: number) =>
    rows[0][i] * (rows[1][j] * rows[2][k] - rows[1][k] * rows[2][j]) -
    rows[0][j] * (rows[1][i] * rows[2][k] - rows[1][k] * rows[2][i]) +
    rows[0][k] * (rows[1][i] * rows[2][j] - rows[1][j] * rows[2][i]);
  const whole = determinant(0, 1, 2);
  const a1Square = determinant(3, 1, 2) / whole;
  const b2Square = determinant(0, 3, 2) / whole;
  const a2Square = determinant(0, 1, 3) / whole;
  const [a0, a1, a2] = minimumPhase(1, a1Square, a2Square);
  const [b0, b1, b2] = minimumPhase(atZero, a1Square * atNyquist, b2Square);
  return { b0: b0 / a0, b1: b1 / a0, b2: b2 / a0, a1: a1 / a0, a2: a2 / a0 };
}

/**
 * First-order section that has the magnitudes given at 0 Hz, at the corner (in radians per sample) and at the Nyquist
 * frequency: in the squared magnitudes, over cos²(ω/2) and sin²(ω/2), three values determine its three coefficients.
 */
function firstOrder(radians: number, atZero: number, atCorner: number, atNyquist: number): Biquad {
  const p1 = arithmetic().sin(radians / 2) ** 2;
  const root = Math.sqrt(((1 - p1) * (atZero ** 2 - atCorner ** 2)) / (p1 * (atCorner ** 2 - atNyquist ** 2)));
  const a1 = (1 - root) / (1 + root);
  const sum = (1 + a1) * atZero;
  const difference = (1 - a1) * atNyquist;
  return { b0: (sum + difference) / 2, b1: (sum - difference) / 2, b2: 0, a1, a2: 0 };
}

/**
 * First-order low-pass 1 / (s + 1), its corner in radians per sample.
 * @example
 * biquadMagnitude(matchedFirstLowPass(0.5), 0.5) // 0.7071
 */
export function matchedFirstLowPass(radians: number): Biquad {
  return firstOrder(radians, 1, Math.SQRT1_2, 1 / Math.sqrt(1 + (Math.PI / radians) ** 2));
}

/**
 * First-order high-pass s / (s + 1): a zero at 0 Hz, and exactly −3.01 dB at the corner in radians per sample.
 * @example
 * biquadMagnitude(matchedFirstHighPass(0.5), 0.5) // 0.7071
 */
export function matchedFirstHighPass(radians: number): Biquad {
  const { exp, cos, sin } = arithmetic();
  const a1 = -exp(-radians);
  const b0 = Math.sqrt((1 + a1 * a1 + 2 * a1 * cos(radians)) / 2) / (2 * sin(radians / 2));
  return { b0, b1: -b0, b2: 0, a1, a2: 0 };
}

/**
 * Tilt (A·s + 1) / (s + A): −gain below, +gain above, 0 dB at the pivot in radians per sample. `gainDb` is below 0, so
 * that the pole lies below the zero; its inverse tilts the other way.
 * @example
 * biquadMagnitude(matchedTilt(-6, 0.5), 0.5) // 1
 */
export function matchedTilt(gainDb: number, radians: number): Biquad {
  const a = arithmetic().pow(10, gainDb / 20);
  const ratio = Math.PI / radians;
  return firstOrder(radians, 1 / a, 1, Math.sqrt((1 + (a * ratio) ** 2) / (a * a + ratio * ratio)));
}

/**
 * Notch with a true zero at its centre, unity at 0 Hz and at the Nyquist frequency, and −3.01 dB at both edges of the
 * bandwidth centre / Q (the sum of the signal and an all-pass; P. Regalia, S. Mitra, IEEE 1987; from memory).
 * @example
 * biquadMagnitude(notch(0.5, 4), 0.5) // 0
 */
export function notch(radians: number, q: number): Biquad {
  const { sin, cos } = arithmetic();
  // The bandwidth cannot reach over the Nyquist frequency.
  const half = Math.min(radians / q, 0.98 * Math.PI) / 2;
  const t = sin(half) / cos(half);
  const k = (1 - t) / (1 + t);
  const b0 = (1 + k) / 2;
  const b1 = -(1 + k) * cos(radians);
  return { b0, b1, b2: b0, a1: b1, a2: k };
}
