import type { Kernels } from '../kernels/host';
import { bitReversed, COMPLEX_BYTES, Transform } from '../kernels/transform';
import { hann } from '../signal/fft';

/** One window in this many is used: the average of a whole track needs no more. */
const SPARSENESS = 4;
/** Hz between two bins, at most. */
const RESOLUTION_HZ = 6;

/** Points of the windows at a sample rate in Hz: a power of two. */
export function averageSpectrumSize(sampleRate: number): number {
  return 2 ** Math.ceil(Math.log2(sampleRate / RESOLUTION_HZ));
}

/** Average spectrum of both channels over a whole track, by Hann windows spread over it. */
export class AverageSpectrum {
  private readonly size: number;
  private readonly transform: Transform;
  private readonly work: number;
  private readonly window: Float64Array;
  private readonly reversed: Uint32Array;
  private readonly power: Float64Array;
  private windows = 0;
  private position = 0;

  constructor(
    private readonly kernels: Kernels,
    sampleRate: number,
  ) {
    this.size = averageSpectrumSize(sampleRate);
    this.transform = new Transform(kernels, this.size);
    this.work = kernels.allocate(this.size * COMPLEX_BYTES);
    this.window = hann(this.size);
    this.reversed = bitReversed(this.size);
    this.power = new Float64Array(this.size / 2);
  }

  /** A block of planar f64, at addresses in the kernels' memory; its length divides the window's. */
  add(left: number, right: number, frames: number): void {
    const { f64 } = this.kernels;
    const { size, window } = this;
    const offset = this.position % (SPARSENESS * size);
    this.position += frames;
    if (offset >= size) return;
    const at = (this.work >> 3) + 2 * offset;
    for (let i = 0; i < frames; i++) {
      f64[at + 2 * i] = f64[(left >> 3) + i] * window[offset + i];
      f64[at + 2 * i + 1] = f64[(right >> 3) + i] * window[offset + i];
    }
    if (offset + frames === size) this.gather();
  }

  /** Of z = left + i·right: |L|² + |R|² at a bin is half of |Z|² there plus half of it at the mirrored bin. */
  private gather(): void {
    const { f64 } = this.kernels;
    this.transform.forward(this.work);
    for (let k = 0; k < this.size / 2; k++) {
      const a = (this.work >> 3) + 2 * this.reversed[k];
      const b = (this.work >> 3) + 2 * this.reversed[(this.size - k) % this.size];
      this.power[k] += (f64[a] ** 2 + f64[a + 1] ** 2 + f64[b] ** 2 + f64[b + 1] ** 2) / 2;
    }
    this.windows++;
  }

  /**
   * dBFS of the bins 0 … size/2 − 1, the mean of both channels; a full-scale sine on a bin, on both channels, reads 0
   * dBFS.
   */
  levels(): Float32Array {
    // The window's mean is 1/2, a real sine shares its amplitude between two bins, and there are two channels.
    const scale = (4 / this.size) ** 2 / 2 / Math.max(1, this.windows);
    return Float32Array.from(this.power, (power) => 10 * Math.log10(Math.max(1e-16, power * scale)));
  }
}
