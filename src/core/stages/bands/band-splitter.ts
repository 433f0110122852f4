import { SECTION_BYTES } from '../../kernels/layout';
import type { Biquad } from '../../signal/biquad';
import { linkwitzRiley } from '../../signal/crossover';
import type { StageContext } from '../definition';
import { clearSection, copySectionState, writeSection } from '../section';
import { MAX_BAND_COUNT, MAX_CROSSOVERS, type Crossovers } from './crossovers';

/** Addresses of a band's planar f64 buffers. */
export interface Band {
  left: number;
  right: number;
}

/** Buffers of as many bands as a lane can have, `frames` long. */
export function makeBands({ kernels }: StageContext, frames: number): Band[] {
  return Array.from({ length: MAX_BAND_COUNT }, () => ({
    left: kernels.allocate(frames * 8),
    right: kernels.allocate(frames * 8),
  }));
}

/** A run of sections over one signal. */
interface Chain {
  list: number;
  count: number;
}

/** Sections at each crossover: low twice, high twice, and one all-pass for each band below. */
const PER_CROSSOVER = 4 + MAX_CROSSOVERS;

/**
 * Splits a pair of signals into bands by Linkwitz–Riley crossovers, from the lowest up. What was split off passes the
 * all-passes of the crossovers above, so that all bands turn alike and their sum is flat.
 */
export class BandSplitter {
  private readonly sections: number;
  private readonly gain: number;
  private readonly lows: Chain[];
  private readonly highs: Chain[];
  private crossovers = 0;

  constructor(private readonly context: StageContext) {
    const { kernels } = context;
    this.sections = kernels.allocate(MAX_CROSSOVERS * PER_CROSSOVER * SECTION_BYTES);
    this.gain = kernels.allocate(16);
    kernels.view64(this.gain, 2).fill(1);
    const chains = () =>
      Array.from({ length: MAX_CROSSOVERS }, () => ({ list: kernels.allocate(PER_CROSSOVER * 4), count: 0 }));
    this.lows = chains();
    this.highs = chains();
  }

  get count(): number {
    return this.crossovers + 1;
  }

  /** Sections that another splitter has too go on from where they are there. */
  set({ frequenciesHz }: Crossovers, before?: BandSplitter): void {
    const designs = frequenciesHz.map((hz) => linkwitzRiley((2 * Math.PI * hz) / this.context.sampleRate));
    for (const chain of [...this.lows, ...this.highs]) chain.count = 0;
    designs.forEach(({ low, high, allPass }, crossover) => {
      this.place(this.lows[crossover], crossover, 0, low, before);
      this.place(this.lows[crossover], crossover, 1, low, before);
      this.place(this.highs[crossover], crossover, 2, high, before);
      this.place(this.highs[crossover], crossover, 3, high, before);
      for (let below = 0; below < crossover; below++)
        this.place(this.lows[below], crossover, 4 + below, allPass, before);
    });
    this.crossovers = frequenciesHz.length;
  }

  private place(chain: Chain, crossover: number, at: number, section: Biquad, before?: BandSplitter): void {
    const { f64, u32 } = this.context.kernels;
    const offset = (crossover * PER_CROSSOVER + at) * SECTION_BYTES;
    writeSection(f64, this.sections + offset, section, section);
    if (before && crossover < before.crossovers)
      copySectionState(f64, before.sections + offset, this.sections + offset);
    else clearSection(f64, this.sections + offset);
    u32[(chain.list >> 2) + chain.count++] = this.sections + offset;
  }

  /** Writes what belongs to each band into its buffers. */
  split(left: number, right: number, bands: readonly Band[], frames: number): void {
    const { run, f64 } = this.context.kernels;
    const copy = (from: number, to: number) => f64.copyWithin(to >> 3, from >> 3, (from >> 3) + frames);
    const top = bands[this.crossovers];
    copy(left, top.left);
    copy(right, top.right);
    for (let i = 0; i < this.crossovers; i++) {
      const band = bands[i];
      copy(top.left, band.left);
      copy(top.right, band.right);
      run.cascade(this.lows[i].list, this.lows[i].count, 0, this.gain, band.left, band.right, frames);
      run.cascade(this.highs[i].list, this.highs[i].count, 0, this.gain, top.left, top.right, frames);
    }
  }
}
