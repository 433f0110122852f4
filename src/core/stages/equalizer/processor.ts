import {
  SECTION_A1,
  SECTION_A2,
  SECTION_B0,
  SECTION_B1,
  SECTION_B2,
  SECTION_BYTES,
  SECTION_S1,
  SECTION_S2,
  SECTION_STEP,
} from '../../kernels/layout';
import { IDENTITY, type Biquad } from '../../signal/biquad';
import type { StageContext, StageProcessor } from '../definition';
import { bandSections } from './design';
import { MAX_BANDS, type EqualizerSettings } from './settings';

const SECTIONS_PER_BAND = 4;
const SECTIONS = MAX_BANDS * SECTIONS_PER_BAND;
/** Coefficients move in a straight line in this many steps of this many frames (both stable ends keep the way between stable). */
const RAMP_STEPS = 256;
const STEP_FRAMES = 8;

const FIELDS: readonly [keyof Biquad, number][] = [
  ['b0', SECTION_B0],
  ['b1', SECTION_B1],
  ['b2', SECTION_B2],
  ['a1', SECTION_A1],
  ['a2', SECTION_A2],
];

/** Up to eight bands as a cascade of second-order sections in float64. */
export class EqualizerProcessor implements StageProcessor<EqualizerSettings> {
  readonly latency = 0;
  private readonly sections: number;
  /** Addresses of the sections that do something. */
  private readonly list: number;
  private count = 0;
  private readonly targets: Biquad[] = Array.from({ length: SECTIONS }, () => IDENTITY);
  private remainingSteps = 0;

  constructor(
    private readonly context: StageContext,
    settings: EqualizerSettings,
  ) {
    this.sections = context.kernels.allocate(SECTIONS * SECTION_BYTES);
    this.list = context.kernels.allocate(SECTIONS * 4);
    this.aim(settings);
    this.arrive();
  }

  update(settings: EqualizerSettings): boolean {
    this.aim(settings);
    const { f64 } = this.context.kernels;
    for (let i = 0; i < SECTIONS; i++) {
      for (const [name, offset] of FIELDS) {
        const at = (this.sections + i * SECTION_BYTES + offset) >> 3;
        const step = (this.targets[i][name] - f64[at]) / RAMP_STEPS;
        f64[at + (SECTION_STEP >> 3)] = step;
        f64[at + (SECTION_STEP >> 3) + 1] = step;
      }
    }
    this.remainingSteps = RAMP_STEPS;
    this.listSections();
    return true;
  }

  process(left: number, right: number, frames: number): void {
    const { run } = this.context.kernels;
    let done = 0;
    while (this.remainingSteps > 0 && done < frames) {
      run.stepSections(this.list, this.count);
      run.cascade(this.list, this.count, left + done * 8, right + done * 8, STEP_FRAMES);
      done += STEP_FRAMES;
      if (--this.remainingSteps === 0) this.arrive();
    }
    if (done < frames && this.count > 0)
      run.cascade(this.list, this.count, left + done * 8, right + done * 8, frames - done);
  }

  takeGainReduction(): number {
    return 0;
  }

  private aim({ bands }: EqualizerSettings): void {
    for (let band = 0; band < MAX_BANDS; band++) {
      const designed = band < bands.length ? bandSections(bands[band], this.context.sampleRate) : [];
      for (let k = 0; k < SECTIONS_PER_BAND; k++) this.targets[band * SECTIONS_PER_BAND + k] = designed[k] ?? IDENTITY;
    }
  }

  /** Writes the targets as coefficients and forgets the sections that ended as identities. */
  private arrive(): void {
    const { f64 } = this.context.kernels;
    for (let i = 0; i < SECTIONS; i++) {
      const section = this.sections + i * SECTION_BYTES;
      for (const [name, offset] of FIELDS) {
        const at = (section + offset) >> 3;
        f64[at] = this.targets[i][name];
        f64[at + 1] = this.targets[i][name];
      }
      if (this.targets[i] === IDENTITY) f64.fill(0, (section + SECTION_S1) >> 3, (section + SECTION_S2 + 16) >> 3);
    }
    this.remainingSteps = 0;
    this.listSections();
  }

  private listSections(): void {
    const { u32, f64 } = this.context.kernels;
    this.count = 0;
    for (let i = 0; i < SECTIONS; i++) {
      const section = this.sections + i * SECTION_BYTES;
      const resting =
        this.targets[i] === IDENTITY &&
        f64[section >> 3] === 1 &&
        FIELDS.slice(1).every(([, o]) => f64[(section + o) >> 3] === 0);
      if (!resting) u32[(this.list >> 2) + this.count++] = section;
    }
  }
}
