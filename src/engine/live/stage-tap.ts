import { QUANTUM } from '../../core/kernels/layout';
import type { LaneProcessor, RunningLane } from '../../core/lane/processor';
import type { Lane } from '../../core/lane/schema';
import { straightened } from '../../core/lane/straight';
import { amplitude } from '../../core/signal/decibels';
import { LiveImage } from './live-image';
import { TAP_FRAMES, type Taps } from './protocol';
import { FADE_SECONDS, Ramp } from './ramp';

/** What is watched of the stage that is open: the signal on both sides of it, its image, and what it takes away. */
export class StageTap {
  /** Index of the stage. */
  stage = 0;
  /** What the stage does besides bending the wave; runs on what goes into it. */
  private straight: LaneProcessor | null = null;
  /** Follows the image behind the stage when that is what it is for. */
  private image: LiveImage | null = null;
  /** Share of what the stage takes away in what is heard, and the gain of what went into it. */
  private readonly removed: Ramp;
  private readonly removedGain: Ramp;

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
    this.choose(0);
  }

  choose(stage: number): void {
    this.stage = stage;
    this.image = this.makeImage();
    this.straight = this.makeStraight();
  }

  /** Follows a change of the lane. */
  follow(lane: Lane): void {
    this.lane = lane;
    if (this.image?.crossovers !== lane.crossovers) this.image = this.makeImage();
    const straight = this.straightLane();
    if (!straight || !this.straight?.update(straight)) this.straight = this.makeStraight();
  }

  /** Correlations behind the stage; empty where no image is followed. */
  correlations(): number[] {
    return this.image?.correlations() ?? [];
  }

  /** Frames by which what is tapped before the stage is ahead of what is tapped behind it. */
  lead(lane: LaneProcessor): number {
    return this.straight ? 0 : lane.latencyOf(this.stage);
  }

  /** Takes a quantum at a joint of the running lane. */
  take(lane: LaneProcessor, joint: number): void {
    const { taps } = this;
    if (!taps || (joint !== this.stage && joint !== this.stage + 1)) return;
    const before = joint === this.stage;
    const { left, right } = before ? this.ahead(lane) : lane;
    const mid = before ? taps.before : taps.after;
    const side = before ? taps.beforeSide : taps.afterSide;
    const start = taps.written[0] % TAP_FRAMES;
    for (let i = 0; i < QUANTUM; i++) {
      mid[start + i] = (left[i] + right[i]) / 2;
      side[start + i] = (left[i] - right[i]) / 2;
    }
    if (before) return;
    taps.written[0] += QUANTUM;
    this.image?.add(left, right);
  }

  /** Lets only what the stage takes away be heard, `gainDb` being what it does to what it leaves alone; null: no more. */
  hearRemoved(gainDb: number | null): void {
    if (gainDb !== null) this.removedGain.moveTo(amplitude(gainDb));
    this.removed.moveTo(gainDb === null ? 0 : 1);
  }

  /** Blends in what the stage takes away, while that is wanted. */
  blendRemoved(lane: LaneProcessor, left: Float32Array, right: Float32Array): void {
    const { taps, removed, removedGain } = this;
    if (!taps || (removed.value === 0 && removed.resting)) return;
    const newest = taps.written[0] - QUANTUM;
    const late = newest - this.lead(lane) + TAP_FRAMES;
    for (let i = 0; i < QUANTUM; i++) {
      const [into, out] = [(late + i) % TAP_FRAMES, (newest + i) % TAP_FRAMES];
      const gain = removedGain.next();
      const mid = gain * taps.before[into] - taps.after[out];
      const side = gain * taps.beforeSide[into] - taps.afterSide[out];
      const share = removed.next();
      left[i] += (mid + side - left[i]) * share;
      right[i] += (mid - side - right[i]) * share;
    }
  }

  /** What stands ahead of the stage, or what that would make of it without bending it. */
  private ahead(lane: LaneProcessor): Pick<LaneProcessor, 'left' | 'right'> {
    const { straight } = this;
    if (!straight) return lane;
    straight.left.set(lane.left);
    straight.right.set(lane.right);
    straight.process(QUANTUM);
    return straight;
  }

  private makeImage(): LiveImage | null {
    const { stages, crossovers } = this.lane;
    return stages[this.stage]?.kind === 'stereo' ? new LiveImage(this.sampleRate, crossovers) : null;
  }

  private straightLane(): RunningLane | null {
    const { stages, crossovers } = this.lane;
    const tapped = stages[this.stage];
    const straight = tapped?.on ? straightened(tapped, crossovers) : null;
    return straight && { stages: [straight], crossovers };
  }

  private makeStraight(): LaneProcessor | null {
    const lane = this.taps ? this.straightLane() : null;
    return lane && this.run(lane);
  }
}
