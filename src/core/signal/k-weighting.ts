import type { Biquad } from './biquad';
import { arithmetic } from './arithmetic';

// The analogue prototype after the 48 kHz coefficients of ITU-R BS.1770 (parameters recovered from those; common
// practice, from memory): a high shelf and a high-pass, each transformed bilinearly at the rate in use.
const SHELF = {
  frequency: 1681.974450955533,
  gainDb: 3.999843853973347,
  q: 0.7071752369554196,
  slope: 0.4996667741545416,
};
const HIGH_PASS = { frequency: 38.13547087602444, q: 0.5003270373238773 };

function tangent(x: number): number {
  return arithmetic().sin(x) / arithmetic().cos(x);
}

/**
 * Both stages of the K-weighting filter at a sample rate in Hz; the high-pass has the numerator 1, −2, 1 as published.
 * @example
 * kWeighting(48000).shelf.b0 // 1.53512485958697
 */
export function kWeighting(sampleRate: number): { shelf: Biquad; highPass: Biquad } {
  const { pow } = arithmetic();
  const k = tangent((Math.PI * SHELF.frequency) / sampleRate);
  const top = pow(10, SHELF.gainDb / 20);
  const bend = pow(top, SHELF.slope);
  const a0 = 1 + k / SHELF.q + k * k;
  const shelf = {
    b0: (top + (bend * k) / SHELF.q + k * k) / a0,
    b1: (2 * (k * k - top)) / a0,
    b2: (top - (bend * k) / SHELF.q + k * k) / a0,
    a1: (2 * (k * k - 1)) / a0,
    a2: (1 - k / SHELF.q + k * k) / a0,
  };
  const h = tangent((Math.PI * HIGH_PASS.frequency) / sampleRate);
  const c0 = 1 + h / HIGH_PASS.q + h * h;
  return {
    shelf,
    highPass: { b0: 1, b1: -2, b2: 1, a1: (2 * (h * h - 1)) / c0, a2: (1 - h / HIGH_PASS.q + h * h) / c0 },
  };
}
