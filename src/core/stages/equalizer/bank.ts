import { SECTION_BYTES } from '../../kernels/layout';
import { IDENTITY, type Biquad } from '../../signal/biquad';
import type { StageContext } from '../definition';
import { bandSections } from './design';
import { DynamicBands } from './dynamic-bands';
import { clearSection, copySectionState, writeSection } from './section';
import { MAX_BANDS, moves, type EqualizerBand, type EqualizerState } from './settings';

const SECTIONS_PER_BAND = 4;
const SECTIONS = MAX_BANDS * SECTIONS_PER_BAND;

type Pair = 'leftRight' | 'midSide';

/** Which side of a pair (left and right, or mid and side) a band works on. */
const SIDES: Record<EqualizerBand['part'], { pair: Pair; first: boolean; second: boolean }> = {
  stereo: { pair: 'leftRight', first: true, second: true },
  left: { pair: 'leftRight', first: true, second: false },
  right: { pair: 'leftRight', first: false, second: true },
  mid: { pair: 'midSide', first: true, second: false },
  side: { pair: 'midSide', first: false, second: true },
};

/** The bands that work on one pair: addresses of the still sections, and the indices of the bands that move. */
interface Chain {
  address: number;
  count: number;
  moving: number[];
}

/**
 * One setting of the bands: on left and right, then on mid and side; in each pair the still ones as a cascade of
 * second-order sections, then those that move. Each band has its own places, so that another bank can go on from them.
 */
export class Bank {
  private readonly sections: number;
  private readonly dynamic: DynamicBands;
  private readonly chains: Record<Pair, Chain>;
  private readonly used = new Uint8Array(SECTIONS);
  private readonly moving = new Uint8Array(MAX_BANDS);

  constructor(private readonly context: StageContext) {
    const { kernels } = context;
    this.sections = kernels.allocate(SECTIONS * SECTION_BYTES);
    this.dynamic = new DynamicBands(context);
    const chain = (): Chain => ({ address: kernels.allocate(SECTIONS * 4), count: 0, moving: [] });
    this.chains = { leftRight: chain(), midSide: chain() };
  }

  /** Takes the bands of a state, or only those that move; what `before` has too goes on from where it is there. */
  set({ bands, scalePercent }: EqualizerState, before?: Bank, movingOnly = false): void {
    const { kernels, sampleRate } = this.context;
    for (const chain of Object.values(this.chains)) {
      chain.count = 0;
      chain.moving.length = 0;
    }
    this.used.fill(0);
    this.moving.fill(0);
    bands.forEach((band, b) => {
      const { pair, first, second } = SIDES[band.part];
      const chain = this.chains[pair];
      if (moves(band) && scalePercent > 0) {
        this.dynamic.set(b, band, scalePercent, first, second, before?.moving[b] ? before.dynamic : undefined);
        this.moving[b] = 1;
        chain.moving.push(b);
      } else if (!movingOnly) {
        bandSections(band, sampleRate, scalePercent).forEach((section, k) => {
          const index = b * SECTIONS_PER_BAND + k;
          this.write(index, first ? section : IDENTITY, second ? section : IDENTITY, before);
          kernels.u32[(chain.address >> 2) + chain.count++] = this.sections + index * SECTION_BYTES;
        });
      }
    });
  }

  private write(index: number, first: Biquad, second: Biquad, before?: Bank): void {
    const { f64 } = this.context.kernels;
    const address = this.sections + index * SECTION_BYTES;
    writeSection(f64, address, first, second);
    if (before?.used[index]) copySectionState(f64, before.sections + index * SECTION_BYTES, address);
    else clearSection(f64, address);
    this.used[index] = 1;
  }

  process(left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    const { leftRight, midSide } = this.chains;
    this.run(leftRight, left, right, frames);
    if (midSide.count === 0 && midSide.moving.length === 0) return;
    run.toMidSide(left, right, frames);
    this.run(midSide, left, right, frames);
    run.toLeftRight(left, right, frames);
  }

  private run({ address, count, moving }: Chain, left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    if (count > 0) run.cascade(address, count, left, right, frames);
    for (let i = 0; i < moving.length; i++) run.dynamicBand(this.dynamic.block(moving[i]), left, right, frames);
  }

  /** dB by which the gain of a band is moved now; 0 for one that stands still. */
  moved(band: number): number {
    return this.moving[band] ? this.dynamic.moved(band) : 0;
  }
}
