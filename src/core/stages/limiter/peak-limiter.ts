import { LIMITER_BOUNDS } from '../../kernels/host';
import * as layout from '../../kernels/layout';
import { arithmetic } from '../../signal/arithmetic';
import { decibels } from '../../signal/decibels';
import type { StageContext } from '../definition';

/** Frames for which the gain is held before and after a peak, since the interpolation reaches over its neighbours. */
const HOLD = 12;
const CHANNELS = [layout.LIM_LEFT, layout.LIM_RIGHT] as const;

/** What a limiter detects: sample peaks, or true peaks by 4x or 8x interpolation. */
export type PeakDetection = 'sample' | 'true4' | 'true8';

/** Points read between two samples. */
const POINTS: Record<PeakDetection, number> = { sample: 0, true4: 3, true8: 7 };

export interface PeakLimiterDesign {
  /** Linear. */
  ceiling: number;
  lookAheadMs: number;
  /** Time to 63 % of the way back. */
  recoveryMs: number;
  /** What lasts is remembered; the gain first recovers only to this share of it. Null: one recovery for everything. */
  memory: { held: number; riseMs: number; fallMs: number } | null;
  detection: PeakDetection;
  /** 0 to 1: share of the other channel's reduction. */
  link: number;
  /** Time in which the channels come back together; 0 at once, infinite never. */
  rejoinMs: number;
}

/**
 * Look-ahead limiter. Peaks are the larger of two interpolations (32 taps a phase, and ITU-R BS.1770 Annex 2), so the
 * ceiling holds for either meter. The required gain passes a running minimum over the look-ahead, the recovery and two
 * moving averages; every one of them keeps the gain at or below what each peak needs.
 */
export class PeakLimiter {
  readonly latency: number;
  private readonly state: number;
  private readonly box: number;
  private readonly linked: boolean;

  constructor(
    private readonly context: Pick<StageContext, 'kernels' | 'sampleRate' | 'maxFrames'>,
    design: PeakLimiterDesign,
  ) {
    const { kernels, maxFrames } = context;
    this.box = this.boxFrames(design);
    this.linked = design.link === 1;
    const smoothing = 2 * this.box - 1;
    const window = (smoothing + 2 * HOLD + 3) & ~3;
    this.latency = smoothing - 1 + layout.INTERPOLATION_DELAY + HOLD;
    this.state = kernels.allocate(layout.LIM_BYTES);
    this.word(layout.LIM_WINDOW, window);
    this.word(layout.LIM_BOX, this.box);
    this.word(layout.LIM_DELAY, this.latency);
    for (const channel of CHANNELS) {
      this.word(channel + layout.LIM_CHANNEL_DETECT, kernels.allocate((layout.TAPS + maxFrames) * 4));
      this.word(channel + layout.LIM_CHANNEL_DELAY, kernels.allocate((this.latency + maxFrames) * 8));
      this.word(channel + layout.LIM_CHANNEL_CURRENT, this.ones(window));
      this.word(channel + layout.LIM_CHANNEL_SUFFIX, this.ones(window + 4));
      const prefix = (this.state + channel + layout.LIM_CHANNEL_PREFIX) >> 2;
      kernels.f32.fill(1, prefix, prefix + 4);
      this.openBoxes(channel);
      if (channel === layout.LIM_LEFT || !this.linked)
        this.word(channel + layout.LIM_CHANNEL_MINIMUM, kernels.allocate(maxFrames * 4));
    }
    if (this.linked)
      this.word(
        layout.LIM_RIGHT + layout.LIM_CHANNEL_MINIMUM,
        kernels.u32[(this.state + layout.LIM_LEFT + layout.LIM_CHANNEL_MINIMUM) >> 2],
      );
    this.both(layout.LIM_GAIN, 1);
    this.both(layout.LIM_LOWEST, 1);
    this.write(design);
  }

  /**
   * Takes another design; false when it has another look-ahead, or links or unlinks the channels. The gain is smoothed
   * after it.
   */
  update(design: PeakLimiterDesign): boolean {
    if (this.boxFrames(design) !== this.box || (design.link === 1) !== this.linked) return false;
    this.write(design);
    return true;
  }

  process(left: number, right: number, frames: number): void {
    const [onLevel, onBend] = LIMITER_BOUNDS;
    this.context.kernels.run.limiter(this.state, left, right, frames, onLevel, onBend);
  }

  /** Largest reduction of either channel in dB since the last call. */
  takeReduction(): number {
    const { f64 } = this.context.kernels;
    const at = (this.state + layout.LIM_LOWEST) >> 3;
    const lowest = Math.min(f64[at], f64[at + 1]);
    this.both(layout.LIM_LOWEST, 1);
    return lowest < 1 ? -decibels(lowest) : 0;
  }

  private write({ ceiling, recoveryMs, memory, detection, link, rejoinMs }: PeakLimiterDesign): void {
    const share = (ms: number) => (ms === 0 ? 1 : 1 - arithmetic().exp(-1000 / (ms * this.context.sampleRate)));
    this.value(layout.LIM_CEILING, ceiling);
    this.value(layout.LIM_RECOVERY, share(recoveryMs));
    this.value(layout.LIM_LINK, link);
    this.value(layout.LIM_RECOVERY_LINK, share(rejoinMs));
    this.value(layout.LIM_HELD, memory?.held ?? 0);
    this.value(layout.LIM_MEMORY_RISE, memory ? share(memory.riseMs) : 0);
    this.value(layout.LIM_MEMORY_FALL, memory ? share(memory.fallMs) : 0);
    this.word(layout.LIM_DETECTION, POINTS[detection]);
  }

  /** Fills both moving averages of a channel with gains of 1. */
  private openBoxes(channel: number): void {
    const { kernels, maxFrames } = this.context;
    for (const [field, sum] of [
      [layout.LIM_CHANNEL_FIRST_BOX, layout.LIM_CHANNEL_SUM_1],
      [layout.LIM_CHANNEL_SECOND_BOX, layout.LIM_CHANNEL_SUM_2],
    ]) {
      const address = kernels.allocate((this.box + maxFrames) * 8);
      kernels.f64.fill(layout.LIM_GRID, address >> 3, (address >> 3) + this.box);
      this.word(channel + field, address);
      this.value(channel + sum, this.box * layout.LIM_GRID);
    }
  }

  private boxFrames({ lookAheadMs }: PeakLimiterDesign): number {
    return Math.max(8, Math.round((lookAheadMs * this.context.sampleRate) / 2000));
  }

  private ones(length: number): number {
    const { kernels } = this.context;
    const address = kernels.allocate(length * 4);
    kernels.f32.fill(1, address >> 2, (address >> 2) + length);
    return address;
  }

  private word(field: number, value: number): void {
    this.context.kernels.u32[(this.state + field) >> 2] = value;
  }

  private value(field: number, value: number): void {
    this.context.kernels.f64[(this.state + field) >> 3] = value;
  }

  private both(field: number, value: number): void {
    this.value(field, value);
    this.value(field + 8, value);
  }
}
