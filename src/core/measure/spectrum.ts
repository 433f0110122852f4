import { Fft, hann } from '../signal/fft';

/** Levels of the frequencies in a real signal with a Hann window; one instance serves one size. */
export class SpectrumAnalyser {
  private readonly fft: Fft;
  private readonly window: Float64Array;
  private readonly real: Float64Array;
  private readonly imaginary: Float64Array;

  /** `size` is a power of two. */
  constructor(readonly size: number) {
    this.fft = new Fft(size);
    this.window = hann(size);
    this.real = new Float64Array(size);
    this.imaginary = new Float64Array(size);
  }

  /** Levels in dBFS of the bins 0 … size/2 − 1 into `output`; a full-scale sine on a bin reads 0 dBFS. */
  levels(frame: ArrayLike<number>, output: Float32Array): void {
    const { size, real, imaginary, window } = this;
    for (let i = 0; i < size; i++) real[i] = frame[i] * window[i];
    imaginary.fill(0);
    this.fft.transform(real, imaginary);
    // The window's mean is 1/2, and a real sine shares its amplitude between two bins.
    const scale = 4 / size;
    for (let k = 0; k < size / 2; k++) {
      output[k] = 20 * Math.log10(Math.max(1e-8, Math.hypot(real[k], imaginary[k]) * scale));
    }
  }
}
