import type { KernelExports } from '../kernels/host';

/** A gain for each side that moves to a new value in a straight line, so that it never clicks. */
export class GainRamp {
  private left: number;
  private right: number;
  private stepLeft = 0;
  private stepRight = 0;
  private remaining = 0;

  /** Amplitude ratios to begin with; `rampFrames` is how long a change takes. */
  constructor(
    private readonly run: KernelExports,
    private targetLeft: number,
    private targetRight: number,
    private readonly rampFrames: number,
  ) {
    this.left = targetLeft;
    this.right = targetRight;
  }

  moveTo(left: number, right: number): void {
    if (left === this.targetLeft && right === this.targetRight) return;
    this.targetLeft = left;
    this.targetRight = right;
    this.remaining = this.rampFrames;
    this.stepLeft = (left - this.left) / this.rampFrames;
    this.stepRight = (right - this.right) / this.rampFrames;
  }

  process(left: number, right: number, frames: number): void {
    const ramped = Math.min(frames, this.remaining);
    if (ramped > 0) {
      this.run.gain(left, right, ramped, this.left, this.right, this.stepLeft, this.stepRight);
      this.left += this.stepLeft * ramped;
      this.right += this.stepRight * ramped;
      this.remaining -= ramped;
      if (this.remaining === 0) {
        this.left = this.targetLeft;
        this.right = this.targetRight;
      }
    }
    if (ramped < frames && (this.left !== 1 || this.right !== 1)) {
      this.run.gain(left + ramped * 8, right + ramped * 8, frames - ramped, this.left, this.right, 0, 0);
    }
  }
}
