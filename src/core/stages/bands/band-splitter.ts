import { QUANTUM, SECTION_BYTES, XO_A1, XO_A2, XO_BYTES, XO_HIGH, XO_LOW, XO_STATES } from '../../kernels/layout';
import { linkwitzRiley, type Crossover } from '../../signal/crossover';
import type { StageContext } from '../definition';
import { clearSection, copySectionState, writeSection } from '../section';
import { MAX_BAND_COUNT, MAX_CROSSOVERS, type Crossovers } from './crossovers';

/** Bytes of a quantum of pairs. */
export const PAIRS_BYTES = QUANTUM * 16;

/** Addresses of a quantum of pairs for each band that a lane can have. */
export function makeBands({ kernels }: Pick<StageContext, 'kernels'>): number[] {
  return Array.from({ length: MAX_BAND_COUNT }, () => kernels.allocate(PAIRS_BYTES));
}

/**
 * Splits pairs into bands by Linkwitz–Riley crossovers, from the lowest up. Each band passes the all-passes of the
 * crossovers above it, so that all bands have the same phase and their sum is flat.
 */
export class BandSplitter {
  private readonly blocks: number;
  /** All-passes of each crossover, one for each band below. */
  private readonly allPasses: number;
  private crossovers = 0;
  /** What the poles of each crossover make of 0 Hz. */
  private readonly zeroGains = new Float64Array(MAX_CROSSOVERS);

  constructor(private readonly context: Pick<StageContext, 'kernels' | 'sampleRate'>) {
    this.blocks = context.kernels.allocate(MAX_CROSSOVERS * XO_BYTES);
    this.allPasses = context.kernels.allocate(MAX_CROSSOVERS * MAX_CROSSOVERS * SECTION_BYTES);
  }

  get count(): number {
    return this.crossovers + 1;
  }

  /** Crossovers that another splitter has too continue from its states. */
  set({ frequenciesHz }: Crossovers, before?: BandSplitter): void {
    const { f64 } = this.context.kernels;
    frequenciesHz.forEach((hz, crossover) => {
      const design = linkwitzRiley((2 * Math.PI * hz) / this.context.sampleRate);
      const from = before && crossover < before.crossovers ? before : undefined;
      this.write(crossover, design, from);
      for (let below = 0; below < crossover; below++) {
        const offset = (crossover * MAX_CROSSOVERS + below) * SECTION_BYTES;
        writeSection(f64, this.allPasses + offset, design.allPass, design.allPass);
        if (from) copySectionState(f64, from.allPasses + offset, this.allPasses + offset);
        else clearSection(f64, this.allPasses + offset);
      }
    });
    this.crossovers = frequenciesHz.length;
  }

  private write(crossover: number, { low, high }: Crossover, before?: BandSplitter): void {
    const { f64 } = this.context.kernels;
    const block = this.blocks + crossover * XO_BYTES;
    f64[(block + XO_A1) >> 3] = low.a1;
    f64[(block + XO_A2) >> 3] = low.a2;
    f64[(block + XO_LOW) >> 3] = low.b0 * low.b0;
    f64[(block + XO_HIGH) >> 3] = high.b0 * high.b0;
    this.zeroGains[crossover] = 1 / (1 + low.a1 + low.a2);
    const states = (block + XO_STATES) >> 3;
    const count = (XO_BYTES - XO_STATES) >> 3;
    f64.fill(0, states, states + count);
    if (!before) return;
    // The recursions hold what is at 0 Hz as many times larger as their poles make it; the second of the low band
    // twice.
    const ratio = this.zeroGains[crossover] / before.zeroGains[crossover];
    const from = (before.blocks + crossover * XO_BYTES + XO_STATES) >> 3;
    for (let i = 0; i < count; i++) f64[states + i] = f64[from + i] * (i >= 4 && i < 8 ? ratio * ratio : ratio);
  }

  /** Writes what belongs to each band into its pairs; up to a quantum of frames. */
  split(pairs: number, bands: readonly number[], frames: number): void {
    const { run } = this.context.kernels;
    const top = bands[this.crossovers];
    for (let i = 0; i < this.crossovers; i++) {
      run.crossover(this.blocks + i * XO_BYTES, i === 0 ? pairs : top, bands[i], top, frames);
      for (let below = 0; below < i; below++)
        run.section(this.allPasses + (i * MAX_CROSSOVERS + below) * SECTION_BYTES, bands[below], frames);
    }
  }
}
