import { QUANTUM } from '../../core/kernels/layout';
import type { LaneProcessor, RunningLane } from '../../core/lane/processor';
import type { Lane } from '../../core/lane/schema';
import { linearReference } from '../../core/lane/linear-reference';
import { traitsOf } from '../../core/stages/registry';
import { amplitude } from '../../core/signal/decibels';
import { LiveBandLevels } from './live-band-levels';
import { LiveImage } from './live-image';
import { TAP_FRAMES, type Taps } from './protocol';
import { FADE_SECONDS, Ramp } from '../sources/ramp';

/** What is watched of the stage that is open: the signal before and after it, its image, and what it takes away. */
export class StageTap {
  /** Index of the stage. */
  stage = 0;
  /** What the stage does besides distorting; runs on its input. */
  private reference: LaneProcessor | null = null;
  /** Follows the image after a stage whose image is measured. */
  private image: LiveImage | null = null;
  /** Follows the bands before a stage that works on their levels. */
  private levels: LiveBandLevels | null = null;
  /** Frames by which the newest quantum before the stage leads the one after it. */
  private lastLead = 0;
  /** Share of what the stage takes away in what is heard, and the gain of what went into it. */
  private readonly removed: Ramp;
  private readonly removedGain: Ramp;
  /** Share of the stage's output that is taken from its input: none where the input itself is heard. */
  private readonly less: Ramp;
  private hearsInput = false;

  /** `run` makes a processor for a lane that is watched and not heard. */
  constructor(
    private readonly sampleRate: number,
    private readonly taps: Taps | null,
    private lane: Lane,
    private readonly run: (lane: RunningLane) => LaneProcessor,
  ) {
    const frames = Math.round(FADE_SECONDS * sampleRate);
    this.removed = new Ramp(0, frames);
    this.removedGain = new Ramp(1, frames);
    this.less = new Ramp(1, frames);
    this.choose(0);
  }

  choose(stage: number): void {
    this.stage = stage;
    this.image = this.makeImage();
    this.levels = this.makeLevels();
    this.reference = this.makeReference();
  }

  /** Follows a change of the lane. */
  follow(lane: Lane): void {
    this.lane = lane;
    if (this.image?.crossovers !== lane.crossovers) this.image = this.makeImage();
    if (this.levels?.crossovers !== lane.crossovers) this.levels = this.makeLevels();
    const reference = this.referenceLane();
    if (!reference || !this.reference?.update(reference)) this.reference = this.makeReference();
  }

  /** Correlations after the stage; empty where no image is followed. */
  correlations(): number[] {
    return this.image?.correlations() ?? [];
  }

  /** Levels of the bands before the stage since the last call, in dBFS; empty where none are followed. */
  takeBandLevels(): number[] {
    return this.levels?.take() ?? [];
  }

  /** Frames by which the tap before the stage leads the tap after it. */
  lead(lane: LaneProcessor): number {
    return this.reference ? 0 : lane.latencyOf(this.stage);
  }

  /** Takes a quantum at a joint of the running lane. */
  take(lane: LaneProcessor, joint: number): void {
    const { taps } = this;
    if (!taps || (joint !== this.stage && joint !== this.stage + 1)) return;
    const before = joint === this.stage;
    const { left, right } = before ? this.inputOf(lane) : lane;
    const mid = before ? taps.before : taps.after;
    const side = before ? taps.beforeSide : taps.afterSide;
    const start = taps.written[0] % TAP_FRAMES;
    for (let i = 0; i < QUANTUM; i++) {
      mid[start + i] = (left[i] + right[i]) / 2;
      side[start + i] = (left[i] - right[i]) / 2;
    }
    if (before) return this.levels?.add(left, right);
    taps.written[0] += QUANTUM;
    this.lastLead = this.lead(lane);
    this.image?.add(left, right);
  }

  /**
   * Lets only what the stage takes away be heard, `gainDb` being what it does to what it leaves alone; null: no more.
   */
  hearRemoved(gainDb: number | null): void {
    if (gainDb !== null) {
      this.removedGain.moveTo(amplitude(gainDb));
      this.less.moveTo(1);
    }
    this.removed.moveTo(gainDb === null ? 0 : 1);
  }

  /** Lets what enters the stage be heard instead of everything. */
  hearInput(on: boolean): void {
    if (on === this.hearsInput) return;
    this.hearsInput = on;
    if (on) {
      this.removedGain.moveTo(1);
      this.less.moveTo(0);
    }
    this.removed.moveTo(on ? 1 : 0);
  }

  /** Blends in what the stage takes away, or what enters it, while that is wanted: part of the monitoring chain. */
  process(left: Float32Array, right: Float32Array): void {
    const { taps, removed, removedGain } = this;
    if (!taps || (removed.value === 0 && removed.resting)) return;
    const newest = taps.written[0] - QUANTUM;
    const late = newest - this.lastLead + TAP_FRAMES;
    for (let i = 0; i < QUANTUM; i++) {
      const [into, out] = [(late + i) % TAP_FRAMES, (newest + i) % TAP_FRAMES];
      const gain = removedGain.next();
      const less = this.less.next();
      const mid = gain * taps.before[into] - less * taps.after[out];
      const side = gain * taps.beforeSide[into] - less * taps.afterSide[out];
      const share = removed.next();
      left[i] += (mid + side - left[i]) * share;
      right[i] += (mid - side - right[i]) * share;
    }
  }

  /** The stage's input, or what the stage would make of it without distorting. */
  private inputOf(lane: LaneProcessor): Pick<LaneProcessor, 'left' | 'right'> {
    const { reference } = this;
    if (!reference) return lane;
    reference.left.set(lane.left);
    reference.right.set(lane.right);
    reference.process(QUANTUM);
    return reference;
  }

  private makeImage(): LiveImage | null {
    const { stages, crossovers } = this.lane;
    const tapped = stages[this.stage];
    return tapped && traitsOf(tapped).measures?.image ? new LiveImage(this.sampleRate, crossovers) : null;
  }

  private makeLevels(): LiveBandLevels | null {
    const { stages, crossovers } = this.lane;
    const tapped = stages[this.stage];
    return tapped && traitsOf(tapped).measures?.bandLevels ? new LiveBandLevels(this.sampleRate, crossovers) : null;
  }

  private referenceLane(): RunningLane | null {
    const { stages, crossovers } = this.lane;
    const tapped = stages[this.stage];
    const reference = tapped?.on ? linearReference(tapped, crossovers) : null;
    return reference && { stages: [reference], crossovers };
  }

  private makeReference(): LaneProcessor | null {
    const lane = this.taps ? this.referenceLane() : null;
    return lane && this.run(lane);
  }
}
