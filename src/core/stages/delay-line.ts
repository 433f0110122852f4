import type { StageContext } from './definition';

/** Delays left and right by a number of frames, in place. */
export class DelayLine {
  private readonly size: number;
  private readonly channels: [left: number, right: number];
  private frames: number;
  private position = 0;

  /** `most` is the longest delay in frames. */
  constructor(
    private readonly context: StageContext,
    private readonly most: number,
  ) {
    this.frames = most;
    this.size = most + context.maxFrames;
    this.channels = [context.kernels.allocate(this.size * 8), context.kernels.allocate(this.size * 8)];
  }

  /** Takes another delay of at most the longest, and what another line of the same size holds. */
  set(frames: number, before?: DelayLine): void {
    const { f64 } = this.context.kernels;
    this.frames = frames;
    if (!before) return;
    this.position = before.position;
    this.channels.forEach((channel, i) => {
      const from = before.channels[i] >> 3;
      f64.copyWithin(channel >> 3, from, from + this.size);
    });
  }

  process(left: number, right: number, frames: number): void {
    if (this.most === 0) return;
    const { run } = this.context.kernels;
    const { size, position } = this;
    run.delay(this.channels[0], size, position, this.frames, left, frames);
    run.delay(this.channels[1], size, position, this.frames, right, frames);
    this.position = (position + frames) % size;
  }
}
