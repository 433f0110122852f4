import { LIMITER_BOUNDS } from '../../kernels/host';
import * as layout from '../../kernels/layout';
import { arithmetic } from '../../signal/arithmetic';
import { amplitude, decibels } from '../../signal/decibels';
import type { StageContext, StageProcessor } from '../definition';
import { GainRamp } from '../gain-ramp';
import type { LimiterSettings } from './settings';

const RAMP_SECONDS = 0.02;
/** Frames for which the gain holds still on both sides of a peak, since the interpolation reaches over its neighbours. */
const HOLD = 12;

/**
 * Look-ahead limiter. Peaks are the larger of two 4x interpolations (32 taps a phase, and ITU-R BS.1770 Annex 2), so the
 * ceiling holds for either meter. The required gain passes a running minimum over the look-ahead, an exponential recovery
 * and two moving averages; every one of them keeps the gain at or below what each peak needs.
 */
export class LimiterProcessor implements StageProcessor<LimiterSettings> {
  readonly latency: number;
  private readonly state: number;
  private readonly inputGain: GainRamp;

  constructor(
    private readonly context: StageContext,
    settings: LimiterSettings,
  ) {
    const { kernels, sampleRate, maxFrames } = context;
    const box = boxFrames(settings, sampleRate);
    const smoothing = 2 * box - 1;
    const window = (smoothing + 2 * HOLD + 3) & ~3;
    this.latency = smoothing - 1 + layout.INTERPOLATION_DELAY + HOLD;

    this.state = kernels.allocate(layout.LIM_BYTES);
    const { u32, f32, f64 } = kernels;
    const word = (field: number, value: number) => {
      u32[(this.state + field) >> 2] = value;
    };
    word(layout.LIM_WINDOW, window);
    word(layout.LIM_BOX, box);
    word(layout.LIM_DELAY, this.latency);
    word(layout.LIM_DETECT_LEFT, kernels.allocate((layout.TAPS + maxFrames) * 4));
    word(layout.LIM_DETECT_RIGHT, kernels.allocate((layout.TAPS + maxFrames) * 4));
    word(layout.LIM_DELAY_LEFT, kernels.allocate((this.latency + maxFrames) * 8));
    word(layout.LIM_DELAY_RIGHT, kernels.allocate((this.latency + maxFrames) * 8));
    word(layout.LIM_MINIMUM, kernels.allocate(maxFrames * 4));
    const ones32 = (length: number) => {
      const address = kernels.allocate(length * 4);
      f32.fill(1, address >> 2, (address >> 2) + length);
      return address;
    };
    word(layout.LIM_CURRENT, ones32(window));
    word(layout.LIM_SUFFIX, ones32(window + 4));
    f32.fill(1, (this.state + layout.LIM_PREFIX) >> 2, ((this.state + layout.LIM_PREFIX) >> 2) + 4);
    for (const [field, sum] of [
      [layout.LIM_FIRST_BOX, layout.LIM_SUM_1],
      [layout.LIM_SECOND_BOX, layout.LIM_SUM_2],
    ]) {
      const address = kernels.allocate((box + maxFrames) * 8);
      f64.fill(1, address >> 3, (address >> 3) + box);
      word(field, address);
      f64[(this.state + sum) >> 3] = box;
    }
    f64[(this.state + layout.LIM_GAIN) >> 3] = 1;
    f64[(this.state + layout.LIM_LOWEST) >> 3] = 1;
    const gain = amplitude(settings.inputGainDb);
    this.inputGain = new GainRamp(kernels, gain, gain, Math.round(RAMP_SECONDS * sampleRate));
    this.write(settings);
  }

  update(settings: LimiterSettings): boolean {
    if (boxFrames(settings, this.context.sampleRate) !== this.context.kernels.u32[(this.state + layout.LIM_BOX) >> 2])
      return false;
    const gain = amplitude(settings.inputGainDb);
    this.inputGain.moveTo(gain, gain);
    this.write(settings);
    return true;
  }

  process(left: number, right: number, frames: number): void {
    this.inputGain.process(left, right, frames);
    const [onLevel, onBend] = LIMITER_BOUNDS;
    this.context.kernels.run.limiter(this.state, left, right, frames, onLevel, onBend);
  }

  takeGainReduction(): number {
    const { f64 } = this.context.kernels;
    const at = (this.state + layout.LIM_LOWEST) >> 3;
    const reduction = f64[at] < 1 ? -decibels(f64[at]) : 0;
    f64[at] = 1;
    return reduction;
  }

  /** The gain is smoothed behind these, so they need no ramp of their own. */
  private write({ ceilingDbtp, recoveryMs }: LimiterSettings): void {
    const { f64 } = this.context.kernels;
    f64[(this.state + layout.LIM_CEILING) >> 3] = amplitude(ceilingDbtp);
    f64[(this.state + layout.LIM_RECOVERY) >> 3] = 1 - arithmetic().exp(-1000 / (recoveryMs * this.context.sampleRate));
  }
}

function boxFrames({ lookAheadMs }: LimiterSettings, sampleRate: number): number {
  return Math.max(8, Math.round((lookAheadMs * sampleRate) / 2000));
}
