import { ANNEX2_PHASES } from '@/core/kernels/interpolator';

// Taken out once: looking Math up in a test's sandbox costs many times what the function does.
const { PI, abs, cos, max, min, sin } = Math;

const PHASES = [...ANNEX2_PHASES, ...[...ANNEX2_PHASES].reverse().map((phase) => [...phase].reverse())];

/** The 48 taps of ITU-R BS.1770 Annex 2 as one filter at four times the sample rate. */
export function annex2Taps(): number[] {
  return Array.from({ length: 48 }, (_, n) => PHASES[n % 4][Math.floor(n / 4)]);
}

/** True peak by the plain method of ITU-R BS.1770 Annex 2 in float64: 4x by the 48-tap filter. Linear. */
export function annex2TruePeak(x: ArrayLike<number>): number {
  let peak = 0;
  for (let n = 0; n < x.length + 11; n++) {
    for (const phase of PHASES) {
      let sum = 0;
      for (let k = 0; k < 12; k++) sum += phase[k] * (x[n - k] ?? 0);
      peak = max(peak, abs(sum));
    }
  }
  return peak;
}

const HALF = 128;
const STEPS = 32;

/** The windowed sinc of 256 taps that gives the wave at each 32nd of a sample. */
const FINE_TAPS = Array.from({ length: STEPS }, (_, step) =>
  Float64Array.from({ length: 2 * HALF }, (__, k) => {
    const t = k - HALF + 1 - step / STEPS;
    return (t === 0 ? 1 : sin(PI * t) / (PI * t)) * (0.5 + 0.5 * cos((PI * t) / HALF));
  }),
);

/** The wave between samples `n` and `n + 1`, at a 32nd of the way. */
function between(x: ArrayLike<number>, n: number, step: number): number {
  const taps = FINE_TAPS[step];
  const to = min(2 * HALF, x.length + HALF - 1 - n);
  let sum = 0;
  for (let k = max(0, HALF - 1 - n); k < to; k++) sum += taps[k] * x[n + k - HALF + 1];
  return abs(sum);
}

/**
 * Peak of a signal interpolated 32 times, up to 128 samples before its end. Linear. Only intervals that can hold it are
 * looked at that closely: a wave without anything above half the sample rate falls from its highest point no faster than
 * a cosine of that frequency does (Duffin and Schaeffer 1938), so that one of four points a sample comes within
 * cos(π/8) of it.
 */
export function fineTruePeak(x: ArrayLike<number>): number {
  const quarter = STEPS / 4;
  const coarse = new Float64Array(4 * max(0, x.length - HALF));
  let peak = 0;
  for (let i = 0; i < coarse.length; i++) {
    coarse[i] = between(x, i >> 2, (i & 3) * quarter);
    if (coarse[i] > peak) peak = coarse[i];
  }
  const near = peak * cos(PI / 8);
  for (let i = 0; i < coarse.length; i++) {
    if (max(coarse[i], coarse[i + 1] ?? 0) < near) continue;
    for (let step = 1; step < quarter; step++) peak = max(peak, between(x, i >> 2, (i & 3) * quarter + step));
  }
  return peak;
}
