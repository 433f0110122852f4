import type { StageContext } from './definition';

/** Delays left and right by a number of frames, in place. */
export class DelayLine {
  private readonly size: number;
  private readonly sides: [left: number, right: number];
  private frames: number;
  private position = 0;

  /** `most` is the longest delay in frames. */
  constructor(
    private readonly context: StageContext,
    private readonly most: number,
  ) {
    this.frames = most;
    this.size = most + context.maxFrames;
    this.sides = [context.kernels.allocate(this.size * 8), context.kernels.allocate(this.size * 8)];
  }

  /** Takes another delay of at most the longest, and what another line of the same size holds. */
  set(frames: number, before?: DelayLine): void {
    const { f64 } = this.context.kernels;
    this.frames = frames;
    if (!before) return;
    this.position = before.position;
    this.sides.forEach((side, i) => {
      const from = before.sides[i] >> 3;
      f64.copyWithin(side >> 3, from, from + this.size);
    });
  }

  process(left: number, right: number, frames: number): void {
    if (this.most === 0) return;
    this.turn(this.sides[0] >> 3, left >> 3, frames);
    this.turn(this.sides[1] >> 3, right >> 3, frames);
    this.position = (this.position + frames) % this.size;
  }

  private turn(ring: number, at: number, frames: number): void {
    const { f64 } = this.context.kernels;
    const { size, position } = this;
    const untilEnd = Math.min(frames, size - position);
    f64.copyWithin(ring + position, at, at + untilEnd);
    f64.copyWithin(ring, at + untilEnd, at + frames);
    const from = (position - this.frames + size) % size;
    const first = Math.min(frames, size - from);
    f64.copyWithin(at, ring + from, ring + from + first);
    f64.copyWithin(at + first, ring, ring + frames - first);
  }
}
