/** Samples on either side of a point that it is interpolated from. */
const REACH = 64;

/**
 * The band-limited wave through samples, which is what a converter plays: Shannon's interpolation with a Hann window over
 * 128 samples. `perFrame` points for each frame from `start` on, and one at `end`; outside the samples is silence.
 */
export function waveBetween(
  samples: ArrayLike<number>,
  { start, end }: { start: number; end: number },
  perFrame: number,
): Float32Array {
  const wave = new Float32Array((end - start) * perFrame + 1);
  for (let phase = 0; phase < perFrame; phase++) {
    const taps = tapsAt(phase / perFrame);
    for (let i = phase; i < wave.length; i += perFrame) {
      const first = start + Math.floor(i / perFrame) - REACH + 1;
      let sum = 0;
      for (let k = 0; k < taps.length; k++) sum += taps[k] * (samples[first + k] ?? 0);
      wave[i] = sum;
    }
  }
  return wave;
}

/** Weights of the samples around a point that lies a share of a frame after the middle one. */
function tapsAt(share: number): Float64Array {
  return Float64Array.from({ length: 2 * REACH }, (_, k) => {
    const t = k - REACH + 1 - share;
    if (t === 0) return 1;
    const window = 0.5 + 0.5 * Math.cos((Math.PI * t) / REACH);
    return (Math.sin(Math.PI * t) / (Math.PI * t)) * window;
  });
}
