/** Power spectrum of real frames by a radix-2 transform with a Hann window; one instance serves one size. */
export class SpectrumAnalyser {
  private readonly cosines: Float64Array;
  private readonly sines: Float64Array;
  private readonly window: Float64Array;
  private readonly real: Float64Array;
  private readonly imaginary: Float64Array;

  /** `size` is a power of two. */
  constructor(readonly size: number) {
    this.cosines = Float64Array.from({ length: size / 2 }, (_, k) => Math.cos((2 * Math.PI * k) / size));
    this.sines = Float64Array.from({ length: size / 2 }, (_, k) => -Math.sin((2 * Math.PI * k) / size));
    this.window = Float64Array.from({ length: size }, (_, k) => 0.5 - 0.5 * Math.cos((2 * Math.PI * k) / size));
    this.real = new Float64Array(size);
    this.imaginary = new Float64Array(size);
  }

  /** Levels in dBFS of the bins 0 … size/2 − 1 into `output`; a full-scale sine on a bin reads 0 dBFS. */
  levels(frame: ArrayLike<number>, output: Float32Array): void {
    const { size, real, imaginary, cosines, sines, window } = this;
    const bits = Math.log2(size);
    for (let i = 0; i < size; i++) {
      let reversed = 0;
      for (let b = 0; b < bits; b++) reversed |= ((i >> b) & 1) << (bits - 1 - b);
      real[reversed] = frame[i] * window[i];
      imaginary[reversed] = 0;
    }
    for (let half = 1; half < size; half *= 2) {
      const stride = size / (2 * half);
      for (let start = 0; start < size; start += 2 * half) {
        for (let k = 0; k < half; k++) {
          const c = cosines[k * stride];
          const s = sines[k * stride];
          const a = start + k;
          const b = a + half;
          const r = real[b] * c - imaginary[b] * s;
          const i = real[b] * s + imaginary[b] * c;
          real[b] = real[a] - r;
          imaginary[b] = imaginary[a] - i;
          real[a] += r;
          imaginary[a] += i;
        }
      }
    }
    // A Hann window's mean is 1/2, and a real sine shares its power between two bins.
    const scale = 4 / size;
    for (let k = 0; k < size / 2; k++)
      output[k] = 20 * Math.log10(Math.max(1e-8, Math.hypot(real[k], imaginary[k]) * scale));
  }
}
