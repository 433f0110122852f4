import type { Kernels } from '../kernels/host';
import { QUANTUM } from '../kernels/layout';
import { BandSplitter, makeBands, PAIRS_BYTES } from '../stages/bands/band-splitter';
import type { Crossovers } from '../stages/bands/crossovers';
import { LoudnessMeter } from './loudness';

/** Seconds of each value over time. */
const IMAGE_SECONDS = 0.1;
/** Energy of left, of right, and what they have in common. */
const SUMS_BYTES = 32;
/** Quieter than this in the mean square there is no image to speak of: −80 dBFS. */
const SILENCE = 1e-8;

/** Correlation of left and right over a whole track. */
export interface ImageReading {
  /** Correlation for each {@link IMAGE_SECONDS}: +1 identical, 0 unrelated, −1 inverted; NaN in silence. */
  correlation: Float32Array;
  /** The same in each band of the lane, from the lowest up. */
  bands: Float32Array[];
  /**
   * LU lost when both channels are summed to mono: 0 for mono, 3 for unrelated channels, infinity for inverted ones.
   */
  foldDownLu: number;
}

/**
 * Correlation of two signals from their energies and their common energy: Σlr / √(Σl²·Σr²), the cosine of the angle
 * between them; NaN when one of them is silent.
 * @example
 * correlationOf(1, 4, -2) // -1
 */
export function correlationOf(leftEnergy: number, rightEnergy: number, common: number, silence = 0): number {
  if (!(Math.min(leftEnergy, rightEnergy) > silence)) return NaN;
  return Math.max(-1, Math.min(1, common / Math.sqrt(leftEnergy * rightEnergy)));
}

/** Gathers the stereo image of a programme, as a whole and by the lane's bands. */
export class ImageMeter {
  private readonly splitter: BandSplitter;
  private readonly bands: number[];
  private readonly pairs: number;
  private readonly mid: number;
  private readonly sums: number;
  private readonly hopFrames: number;
  private filled = 0;
  private readonly values: number[][];
  private readonly stereo: LoudnessMeter;
  private readonly mono: LoudnessMeter;

  /** `hops` of 10 ms that the track has. */
  constructor(
    private readonly kernels: Kernels,
    sampleRate: number,
    crossovers: Crossovers,
    hops: number,
  ) {
    this.splitter = new BandSplitter({ kernels, sampleRate });
    this.splitter.set(crossovers);
    this.bands = makeBands({ kernels });
    this.pairs = kernels.allocate(PAIRS_BYTES);
    this.mid = kernels.allocate(QUANTUM * 8);
    this.hopFrames = Math.round(IMAGE_SECONDS * sampleRate);
    const count = this.splitter.count + 1;
    this.sums = kernels.allocate(count * SUMS_BYTES);
    this.values = Array.from({ length: count }, () => []);
    this.stereo = new LoudnessMeter(kernels, sampleRate, hops);
    this.mono = new LoudnessMeter(kernels, sampleRate, hops);
  }

  /** Addresses of planar f64 channels; any number of frames. */
  add(left: number, right: number, frames: number): void {
    const { run, f64 } = this.kernels;
    const mid = this.mid >> 3;
    for (let done = 0; done < frames;) {
      const part = Math.min(QUANTUM, frames - done, this.hopFrames - this.filled);
      const [l, r] = [left + done * 8, right + done * 8];
      run.toPairs(l, r, this.pairs, part);
      this.splitter.split(this.pairs, this.bands, part);
      run.products(this.pairs, part, this.sums);
      for (let b = 0; b < this.splitter.count; b++) run.products(this.bands[b], part, this.sums + (b + 1) * SUMS_BYTES);
      for (let i = 0; i < part; i++) f64[mid + i] = (f64[(l >> 3) + i] + f64[(r >> 3) + i]) / 2;
      this.stereo.add(l, r, part);
      this.mono.add(this.mid, this.mid, part);
      done += part;
      this.filled += part;
      if (this.filled === this.hopFrames) this.turn();
    }
  }

  private turn(): void {
    const { f64 } = this.kernels;
    this.filled = 0;
    this.values.forEach((values, i) => {
      const at = (this.sums + i * SUMS_BYTES) >> 3;
      values.push(correlationOf(f64[at], f64[at + 1], f64[at + 2], SILENCE * this.hopFrames));
      f64.fill(0, at, at + 3);
    });
  }

  result(): ImageReading {
    const [correlation, ...bands] = this.values.map((values) => Float32Array.from(values));
    const lost = this.stereo.report().integrated - this.mono.report().integrated;
    return { correlation, bands, foldDownLu: Number.isNaN(lost) ? 0 : lost };
  }
}
