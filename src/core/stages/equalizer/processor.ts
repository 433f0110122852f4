import {
  QUANTUM,
  SECTION_A1,
  SECTION_A2,
  SECTION_B0,
  SECTION_B1,
  SECTION_B2,
  SECTION_BYTES,
  SECTION_S1,
} from '../../kernels/layout';
import { IDENTITY, type Biquad } from '../../signal/biquad';
import { Crossfade } from '../crossfade';
import type { StageContext, StageProcessor } from '../definition';
import { bandSections } from './design';
import { MAX_BANDS, type EqualizerBand, type EqualizerSettings } from './settings';

const SECTIONS_PER_BAND = 4;
const SECTIONS = MAX_BANDS * SECTIONS_PER_BAND;

const FIELDS: readonly [keyof Biquad, number][] = [
  ['b0', SECTION_B0],
  ['b1', SECTION_B1],
  ['b2', SECTION_B2],
  ['a1', SECTION_A1],
  ['a2', SECTION_A2],
];

/** Which side of a pair (left and right, or mid and side) a band works on. */
const SIDES: Record<EqualizerBand['part'], { pair: 'leftRight' | 'midSide'; first: boolean; second: boolean }> = {
  stereo: { pair: 'leftRight', first: true, second: true },
  left: { pair: 'leftRight', first: true, second: false },
  right: { pair: 'leftRight', first: false, second: true },
  mid: { pair: 'midSide', first: true, second: false },
  side: { pair: 'midSide', first: false, second: true },
};

/** A cascade of second-order sections; each band has its own places in it. */
class Bank {
  private readonly sections: number;
  /** Addresses of the sections that do something, for left and right and for mid and side. */
  private readonly lists: Record<'leftRight' | 'midSide', { address: number; count: number }>;
  private readonly used = new Uint8Array(SECTIONS);

  constructor(private readonly context: StageContext) {
    const { kernels } = context;
    this.sections = kernels.allocate(SECTIONS * SECTION_BYTES);
    this.lists = {
      leftRight: { address: kernels.allocate(SECTIONS * 4), count: 0 },
      midSide: { address: kernels.allocate(SECTIONS * 4), count: 0 },
    };
  }

  /** Takes the sections of these settings; those that `before` has too go on from where its are. */
  set({ bands, scalePercent }: EqualizerSettings, before?: Bank): void {
    const { kernels, sampleRate } = this.context;
    const { leftRight, midSide } = this.lists;
    leftRight.count = 0;
    midSide.count = 0;
    this.used.fill(0);
    bands.forEach((band, b) => {
      const { pair, first, second } = SIDES[band.part];
      const list = this.lists[pair];
      bandSections(band, sampleRate, scalePercent).forEach((section, k) => {
        const index = b * SECTIONS_PER_BAND + k;
        this.write(index, first ? section : IDENTITY, second ? section : IDENTITY, before);
        kernels.u32[(list.address >> 2) + list.count++] = this.sections + index * SECTION_BYTES;
      });
    });
  }

  private write(index: number, first: Biquad, second: Biquad, before?: Bank): void {
    const { f64 } = this.context.kernels;
    const address = this.sections + index * SECTION_BYTES;
    for (const [name, offset] of FIELDS) {
      f64[(address + offset) >> 3] = first[name];
      f64[((address + offset) >> 3) + 1] = second[name];
    }
    const states = (address + SECTION_S1) >> 3;
    if (before?.used[index]) {
      const from = (before.sections + index * SECTION_BYTES + SECTION_S1) >> 3;
      f64.copyWithin(states, from, from + 4);
    } else f64.fill(0, states, states + 4);
    this.used[index] = 1;
  }

  process(left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    const { leftRight, midSide } = this.lists;
    if (leftRight.count > 0) run.cascade(leftRight.address, leftRight.count, left, right, frames);
    if (midSide.count > 0) {
      run.toMidSide(left, right, frames);
      run.cascade(midSide.address, midSide.count, left, right, frames);
      run.toLeftRight(left, right, frames);
    }
  }
}

/** Up to sixteen bands in float64, those on left and right before those on mid and side; a change crosses over from the old bands to the new ones. */
export class EqualizerProcessor implements StageProcessor<EqualizerSettings> {
  readonly latency = 0;
  private bank: Bank;
  private next: Bank;
  private readonly change: Crossfade;
  /** What is to be heard when the change under way is done. */
  private wanted: EqualizerSettings | null = null;
  private readonly byBank = (left: number, right: number) => this.bank.process(left, right, QUANTUM);
  private readonly byNext = (left: number, right: number) => this.next.process(left, right, QUANTUM);

  constructor(context: StageContext, settings: EqualizerSettings) {
    this.bank = new Bank(context);
    this.next = new Bank(context);
    this.change = new Crossfade(context.kernels, context.sampleRate);
    this.bank.set(settings);
  }

  update(settings: EqualizerSettings): boolean {
    this.wanted = settings;
    return true;
  }

  process(left: number, right: number, frames: number): void {
    let done = 0;
    while (done < frames && (this.change.running || this.wanted)) {
      if (!this.change.running && this.wanted) {
        this.next.set(this.wanted, this.bank);
        this.wanted = null;
        this.change.begin();
      }
      if (this.change.process(left + done * 8, right + done * 8, this.byBank, this.byNext)) {
        [this.bank, this.next] = [this.next, this.bank];
      }
      done += QUANTUM;
    }
    if (done < frames) this.bank.process(left + done * 8, right + done * 8, frames - done);
  }

  takeGainReduction(): number {
    return 0;
  }
}
