import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { correlationOf } from '../../core/measure/image';
import { BandSplitter, makeBands, type Band } from '../../core/stages/bands/band-splitter';
import type { Crossovers } from '../../core/stages/bands/crossovers';

/** Seconds over which the live correlation is taken. */
const SECONDS = 0.3;
/** Mean square below which there is no image: −80 dBFS. */
const SILENCE = 1e-8;

/** Correlation of what is heard now, as a whole and in each band of the lane. */
export class LiveImage {
  private readonly kernels = new Kernels();
  private readonly splitter: BandSplitter;
  private readonly bands: Band[];
  private readonly whole: Band;
  private readonly fresh: number;
  /** Energies of left and right and what they have in common, of everything, then of each band. */
  private readonly means: Float64Array;
  private readonly share: number;

  constructor(
    sampleRate: number,
    readonly crossovers: Crossovers,
  ) {
    const { kernels } = this;
    const context = { kernels, sampleRate, maxFrames: QUANTUM, crossovers, responses: new Map() };
    this.splitter = new BandSplitter(context);
    this.splitter.set(crossovers);
    this.bands = makeBands(context, QUANTUM);
    this.whole = { left: kernels.allocate(QUANTUM * 8), right: kernels.allocate(QUANTUM * 8) };
    this.fresh = kernels.allocate(24);
    this.means = new Float64Array(3 * (this.splitter.count + 1));
    this.share = QUANTUM / (SECONDS * sampleRate);
  }

  /** One quantum. */
  add(left: Float64Array, right: Float64Array): void {
    const { kernels, whole, bands } = this;
    kernels.f64.set(left, whole.left >> 3);
    kernels.f64.set(right, whole.right >> 3);
    this.splitter.split(whole.left, whole.right, bands, QUANTUM);
    this.take(0, whole);
    for (let b = 0; b < this.splitter.count; b++) this.take(b + 1, bands[b]);
  }

  private take(index: number, { left, right }: Band): void {
    const { f64, run } = this.kernels;
    const at = this.fresh >> 3;
    f64.fill(0, at, at + 3);
    run.products(left, right, QUANTUM, this.fresh);
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
