import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { correlationOf } from '../../core/measure/image';
import { BandSplitter, makeBands, PAIRS_BYTES } from '../../core/stages/bands/band-splitter';
import type { Crossovers } from '../../core/stages/bands/crossovers';

/** Seconds over which the live correlation is taken. */
const SECONDS = 0.3;
/** Mean square below which there is no image: −80 dBFS. */
const SILENCE = 1e-8;

/** Correlation of what is heard now, as a whole and in each band of the lane. */
export class LiveImage {
  private readonly kernels = new Kernels();
  private readonly splitter: BandSplitter;
  private readonly bands: number[];
  private readonly pairs: number;
  private readonly fresh: number;
  /** Energies of left and right and what they have in common, of everything, then of each band. */
  private readonly means: Float64Array;
  private readonly share: number;

  constructor(
    sampleRate: number,
    readonly crossovers: Crossovers,
  ) {
    const { kernels } = this;
    this.splitter = new BandSplitter({ kernels, sampleRate });
    this.splitter.set(crossovers);
    this.bands = makeBands({ kernels });
    this.pairs = kernels.allocate(PAIRS_BYTES);
    this.fresh = kernels.allocate(32);
    this.means = new Float64Array(3 * (this.splitter.count + 1));
    this.share = QUANTUM / (SECONDS * sampleRate);
  }

  /** One quantum. */
  add(left: Float64Array, right: Float64Array): void {
    const { f64 } = this.kernels;
    const at = this.pairs >> 3;
    for (let i = 0; i < QUANTUM; i++) {
      f64[at + 2 * i] = left[i];
      f64[at + 2 * i + 1] = right[i];
    }
    this.splitter.split(this.pairs, this.bands, QUANTUM);
    this.take(0, this.pairs);
    for (let b = 0; b < this.splitter.count; b++) this.take(b + 1, this.bands[b]);
  }

  private take(index: number, pairs: number): void {
    const { f64, run } = this.kernels;
    const at = this.fresh >> 3;
    f64.fill(0, at, at + 3);
    run.products(pairs, QUANTUM, this.fresh);
    for (let i = 0; i < 3; i++) {
      const mean = 3 * index + i;
      this.means[mean] += this.share * (f64[at + i] / QUANTUM - this.means[mean]);
    }
  }

  /** Of everything, then of each band from the lowest up; NaN in silence. */
  correlations(): number[] {
    return Array.from({ length: this.splitter.count + 1 }, (_, i) =>
      correlationOf(this.means[3 * i], this.means[3 * i + 1], this.means[3 * i + 2], SILENCE),
    );
  }
}
