import type { Kernels } from '../kernels/host';
import { BandSplitter, makeBands, type Band } from '../stages/bands/band-splitter';
import type { Crossovers } from '../stages/bands/crossovers';
import { LoudnessMeter } from './loudness';

/** Seconds of each value over time. */
export const IMAGE_SECONDS = 0.1;
/** Quieter than this in the mean square there is no image to speak of: −80 dBFS. */
const SILENCE = 1e-8;

/** How left and right belong together over a whole programme. */
export interface ImageReading {
  /** Correlation for each {@link IMAGE_SECONDS}: +1 alike, 0 unlike, −1 inverted; NaN in silence. */
  correlation: Float32Array;
  /** The same in each band of the lane, from the lowest up. */
  bands: Float32Array[];
  /** LU lost when both sides are summed to mono: 0 for mono, 3 for sides that are unlike, infinity for inverted ones. */
  foldDownLu: number;
}

/**
 * Correlation of two signals from their energies and their common energy (the cosine of the angle between them); NaN when
 * one of them is silent.
 */
export function correlationOf(leftEnergy: number, rightEnergy: number, common: number, silence = 0): number {
  if (!(Math.min(leftEnergy, rightEnergy) > silence)) return NaN;
  return Math.max(-1, Math.min(1, common / Math.sqrt(leftEnergy * rightEnergy)));
}

/** Gathers the stereo image of a programme, as a whole and by the lane's bands. */
export class ImageMeter {
  private readonly splitter: BandSplitter;
  private readonly bands: Band[];
  private readonly mid: number;
  private readonly sums: number;
  private readonly hopFrames: number;
  private filled = 0;
  private readonly values: number[][];
  private readonly stereo: LoudnessMeter;
  private readonly mono: LoudnessMeter;

  /** `maxFrames` of a block, `hops` of 10 ms that the programme has. */
  constructor(
    private readonly kernels: Kernels,
    sampleRate: number,
    maxFrames: number,
    crossovers: Crossovers,
    hops: number,
  ) {
    const context = { kernels, sampleRate, maxFrames, crossovers, responses: new Map() };
    this.splitter = new BandSplitter(context);
    this.splitter.set(crossovers);
    this.bands = makeBands(context, maxFrames);
    this.mid = kernels.allocate(maxFrames * 8);
    this.hopFrames = 2 * Math.round((IMAGE_SECONDS * sampleRate) / 2);
    const count = this.splitter.count + 1;
    this.sums = kernels.allocate(count * 24);
    this.values = Array.from({ length: count }, () => []);
    this.stereo = new LoudnessMeter(kernels, sampleRate, hops);
    this.mono = new LoudnessMeter(kernels, sampleRate, hops);
  }

  /** Addresses of planar f64 sides; frames a multiple of 2. */
  add(left: number, right: number, frames: number): void {
    const { run, f64 } = this.kernels;
    this.splitter.split(left, right, this.bands, frames);
    const mid = this.mid >> 3;
    for (let i = 0; i < frames; i++) f64[mid + i] = (f64[(left >> 3) + i] + f64[(right >> 3) + i]) / 2;
    this.stereo.add(left, right, frames);
    this.mono.add(this.mid, this.mid, frames);
    for (let done = 0; done < frames;) {
      const part = Math.min(frames - done, this.hopFrames - this.filled);
      const at = done * 8;
      run.products(left + at, right + at, part, this.sums);
      for (let b = 0; b < this.splitter.count; b++)
        run.products(this.bands[b].left + at, this.bands[b].right + at, part, this.sums + (b + 1) * 24);
      done += part;
      this.filled += part;
      if (this.filled === this.hopFrames) this.turn();
    }
  }

  private turn(): void {
    const { f64 } = this.kernels;
    this.filled = 0;
    this.values.forEach((values, i) => {
      const at = (this.sums >> 3) + i * 3;
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
