import { arithmetic } from './arithmetic';
import type { Biquad } from './biquad';
import { prototypeMagnitude, type Prototype } from './prototype';

/**
 * Digital section that follows an analogue prototype up to the Nyquist frequency, after M. Vicanek, "Matched Second Order
 * Digital Filters" (2016): poles by impulse invariance, numerator from the prototype's magnitude at 0 Hz, at the Nyquist
 * frequency and at the corner, where the match is exact. A high-pass keeps its double zero at 0 Hz instead.
 * `radians` is the corner or centre frequency in radians per sample, in (0, π).
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
