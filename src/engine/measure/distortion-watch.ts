import { DISTORTION_FRAMES, DistortionMeter } from '../../core/measure/distortion';
import { mergeTips, TipMeter } from '../../core/measure/tips';
import { TRACE_FRAMES, type Excerpt, type Span, type StageDistortion } from './measurement';

const WINDOW_BLOCKS = DISTORTION_FRAMES / TRACE_FRAMES;

/** Watches a nonlinear stage: the distortion it adds to the loudest passage, and the place where it worked most. */
export class DistortionWatch {
  private readonly meter: DistortionMeter;
  /** The newest frames of each channel, before and after the stage: rings whose length is a multiple of the block. */
  private readonly before: [left: Float64Array, right: Float64Array];
  private readonly after: [left: Float64Array, right: Float64Array];
  private readonly frames: number;
  private readonly touched: Float32Array;
  private most = -1;
  private excerpt: Excerpt;
  private counted = false;
  private readonly tips: readonly [TipMeter, TipMeter] | null;

  /**
   * In frames: `latency` of the stage, `ahead` by how much its tapped input leads its output, and
   * `late` the latency of the joint before; `loudest` in frames of the track, or null.
   */
  constructor(
    private readonly sampleRate: number,
    private readonly latency: number,
    private readonly ahead: number,
    private readonly late: number,
    private readonly loudest: Span | null,
    private readonly trackFrames: number,
    /** The amplitude of the input whose tips are wanted; null for none. */
    tipsAt: number | null,
  ) {
    this.tips = tipsAt === null ? null : [new TipMeter(sampleRate, tipsAt), new TipMeter(sampleRate, tipsAt)];
    this.meter = new DistortionMeter(sampleRate);
    this.frames = Math.ceil((ahead + 2 * DISTORTION_FRAMES) / TRACE_FRAMES) * TRACE_FRAMES;
    const ring = () => new Float64Array(this.frames);
    this.before = [ring(), ring()];
    this.after = [ring(), ring()];
    this.touched = new Float32Array(Math.ceil(trackFrames / TRACE_FRAMES));
    this.excerpt = { seconds: 0, before: new Float32Array(0), after: new Float32Array(0) };
  }

  /** A block before the stage, or what the stage would make of it without distorting. */
  takeBefore(block: number, left: Float64Array, right: Float64Array): void {
    const at = (block * TRACE_FRAMES) % this.frames;
    this.before[0].set(left, at);
    this.before[1].set(right, at);
  }

  takeAfter(block: number, left: Float64Array, right: Float64Array): void {
    const at = (block * TRACE_FRAMES) % this.frames;
    this.after[0].set(left, at);
    this.after[1].set(right, at);
  }

  /** When both are there: dB that the stage took at most, and the share of the samples it bent. */
  watch(block: number, reduction: number, touched: number | null): void {
    if (touched !== null) {
      this.touched[block] = touched;
      this.counted = true;
    }
    this.tips?.forEach((meter, channel) =>
      meter.add(
        this.newest(this.before[channel], block, this.ahead, TRACE_FRAMES),
        this.newest(this.after[channel], block, 0, TRACE_FRAMES),
      ),
    );
    // Frames before the track and its tail are not measured.
    const start = this.startOf(block);
    if (start < 0 || start + DISTORTION_FRAMES > this.trackFrames) return;
    const due = (block + 1) % WINDOW_BLOCKS === 0;
    // A stage that takes nothing is drawn where the music is loudest.
    const strength = reduction > 0 ? 100 + reduction : due && this.most < 100 ? this.level(block) : -1;
    if (strength > this.most) {
      this.most = strength;
      this.cut(block);
    }
    const { loudest } = this;
    if (due && loudest && start + DISTORTION_FRAMES > loudest.start && start < loudest.end) this.measure(block);
  }

  reading(): StageDistortion {
    const added = this.meter.empty ? null : this.meter.reading();
    const tips = this.tips && mergeTips(this.tips.map((meter) => meter.reading()));
    return { touched: this.counted ? this.touched : null, added, excerpt: this.excerpt, tips };
  }

  /** Frame of the track at which the newest window begins. */
  private startOf(block: number): number {
    return (block + 1) * TRACE_FRAMES - DISTORTION_FRAMES - this.late - this.latency;
  }

  private measure(block: number): void {
    for (const channel of [0, 1] as const) {
      const after = this.newest(this.after[channel], block, 0);
      const before = this.newest(this.before[channel], block, this.ahead);
      this.meter.add(before, after);
    }
  }

  private level(block: number): number {
    return this.newest(this.after[0], block, 0).reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  }

  /** Keeps the channel on which more went in. */
  private cut(block: number): void {
    const channels = [0, 1].map((channel) => this.newest(this.before[channel], block, this.ahead));
    const size = (x: Float64Array) => x.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
    const channel = size(channels[1]) > size(channels[0]) ? 1 : 0;
    this.excerpt = {
      seconds: this.startOf(block) / this.sampleRate,
      before: Float32Array.from(channels[channel]),
      after: Float32Array.from(this.newest(this.after[channel], block, 0)),
    };
  }

  /** The newest frames of a ring, so many frames ago. */
  private newest(ring: Float64Array, block: number, ago: number, frames = DISTORTION_FRAMES): Float64Array {
    const window = new Float64Array(frames);
    const start = (block + 1) * TRACE_FRAMES - ago - frames + 4 * this.frames;
    const at = start % this.frames;
    const first = Math.min(frames, this.frames - at);
    window.set(ring.subarray(at, at + first));
    window.set(ring.subarray(0, frames - first), first);
    return window;
  }
}
