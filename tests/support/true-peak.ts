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

/** Peak of a signal interpolated 32 times by a windowed sinc of 256 taps a phase, up to 128 samples before its end. Linear. */
export function fineTruePeak(x: ArrayLike<number>): number {
  const half = 128;
  let peak = 0;
  for (let phase = 0; phase < 32; phase++) {
    const taps = Float64Array.from({ length: 2 * half }, (_, k) => {
      const t = k - half + 1 - phase / 32;
      const window = 0.5 + 0.5 * cos((PI * t) / half);
      return (t === 0 ? 1 : sin(PI * t) / (PI * t)) * window;
    });
    for (let n = 0; n < x.length - half; n++) {
      let sum = 0;
      const from = max(0, half - 1 - n);
      const to = min(2 * half, x.length + half - 1 - n);
      for (let k = from; k < to; k++) sum += taps[k] * x[n + k - half + 1];
      if (abs(sum) > peak) peak = abs(sum);
    }
  }
  return peak;
}
