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
import type { Biquad } from '../../signal/biquad';
import { Crossfade } from '../crossfade';
import type { StageContext, StageProcessor } from '../definition';
import { bandSections } from './design';
import { MAX_BANDS, type EqualizerSettings } from './settings';

const SECTIONS_PER_BAND = 4;
const SECTIONS = MAX_BANDS * SECTIONS_PER_BAND;

const FIELDS: readonly [keyof Biquad, number][] = [
  ['b0', SECTION_B0],
  ['b1', SECTION_B1],
  ['b2', SECTION_B2],
  ['a1', SECTION_A1],
  ['a2', SECTION_A2],
];

/** A cascade of second-order sections; each band has its own places in it. */
class Bank {
  /** Addresses of the sections that do something. */
  private readonly list: number;
  private readonly sections: number;
  private count = 0;
  private readonly used = new Uint8Array(SECTIONS);

  constructor(private readonly context: StageContext) {
    this.sections = context.kernels.allocate(SECTIONS * SECTION_BYTES);
    this.list = context.kernels.allocate(SECTIONS * 4);
  }

  /** Takes the sections of these settings; those that `before` has too go on from where its are. */
  set({ bands }: EqualizerSettings, before?: Bank): void {
    const { kernels, sampleRate } = this.context;
    this.count = 0;
    this.used.fill(0);
    bands.forEach((band, b) => {
      bandSections(band, sampleRate).forEach((section, k) => this.write(b * SECTIONS_PER_BAND + k, section, before));
    });
    for (let i = 0; i < SECTIONS; i++) {
      if (this.used[i]) kernels.u32[(this.list >> 2) + this.count++] = this.sections + i * SECTION_BYTES;
    }
  }

  private write(index: number, section: Biquad, before?: Bank): void {
    const { f64 } = this.context.kernels;
    const address = this.sections + index * SECTION_BYTES;
    for (const [name, offset] of FIELDS)
      f64.fill(section[name], (address + offset) >> 3, ((address + offset) >> 3) + 2);
    const states = (address + SECTION_S1) >> 3;
    if (before?.used[index]) {
      const from = (before.sections + index * SECTION_BYTES + SECTION_S1) >> 3;
      f64.copyWithin(states, from, from + 4);
    } else f64.fill(0, states, states + 4);
    this.used[index] = 1;
  }

  process(left: number, right: number, frames: number): void {
    if (this.count > 0) this.context.kernels.run.cascade(this.list, this.count, left, right, frames);
  }
}

/** Up to eight bands in float64; a change crosses over from the old bands to the new ones. */
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
