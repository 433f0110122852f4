// Taken out once: looking Math up in a test's sandbox costs many times what the function does.
const { PI, abs, cos, max, min, sin } = Math;

/**
 * True peak by the plain method of ITU-R BS.1770-4 Annex 2 in float64: 4x by the published 48-tap filter (from memory).
 * Linear.
 */
export function annex2TruePeak(x: ArrayLike<number>): number {
  const outer = [
    0.001708984375, 0.010986328125, -0.0196533203125, 0.033203125, -0.0594482421875, 0.1373291015625, 0.97216796875,
    -0.102294921875, 0.047607421875, -0.026611328125, 0.014892578125, -0.00830078125,
  ];
  const inner = [
    -0.0291748046875, 0.029296875, -0.0517578125, 0.089111328125, -0.16650390625, 0.465087890625, 0.77978515625,
    -0.2003173828125, 0.1015625, -0.0582275390625, 0.0330810546875, -0.0189208984375,
  ];
  const phases = [outer, inner, [...inner].reverse(), [...outer].reverse()];
  let peak = 0;
  for (let n = 0; n < x.length + 11; n++) {
    for (const phase of phases) {
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
