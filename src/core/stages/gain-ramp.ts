import type { Kernels } from '../kernels/host';
import { GAIN_BEND, GAIN_BYTES, GAIN_NOW, GAIN_STEP } from '../kernels/layout';

/**
 * A gain for each channel that moves to a new value along two parabolas, with a gentle start and end, so that it never
 * clicks. A change on the way begins from where the gain is, at rest.
 */
export class GainRamp {
  private readonly state: number;
  private readonly half: number;
  private readonly targets: [left: number, right: number];
  private remaining = 0;

  /** Amplitude ratios to begin with; a change takes about `rampFrames`. */
  constructor(
    private readonly kernels: Kernels,
    left: number,
    right: number,
    rampFrames: number,
  ) {
    this.half = Math.round(rampFrames / 2);
    this.state = kernels.allocate(GAIN_BYTES);
    this.targets = [left, right];
    this.arrive();
  }

  moveTo(left: number, right: number): void {
    if (left === this.targets[0] && right === this.targets[1]) return;
    const at = (this.state + GAIN_NOW) >> 3;
    const { f64 } = this.kernels;
    const curvature = (target: number, now: number) => (target - now) / (this.half * this.half);
    this.write(GAIN_BEND, curvature(left, f64[at]), curvature(right, f64[at + 1]));
    this.write(GAIN_STEP, 0, 0);
    this.targets[0] = left;
    this.targets[1] = right;
    this.remaining = 2 * this.half;
  }

  process(left: number, right: number, frames: number): void {
    const { run, f64 } = this.kernels;
    let done = 0;
    while (this.remaining > 0 && done < frames) {
      if (this.remaining === this.half) this.turn();
      const untilTurn = this.remaining > this.half ? this.remaining - this.half : this.remaining;
      const part = Math.min(frames - done, untilTurn);
      run.movingGain(this.state, left + done * 8, right + done * 8, part);
      done += part;
      this.remaining -= part;
      if (this.remaining === 0) this.arrive();
    }
    const at = (this.state + GAIN_NOW) >> 3;
    if (done < frames && (f64[at] !== 1 || f64[at + 1] !== 1)) {
      run.gain(this.state, left + done * 8, right + done * 8, frames - done);
    }
  }

  /** Halfway the gain begins to slow down. */
  private turn(): void {
    const at = (this.state + GAIN_BEND) >> 3;
    this.write(GAIN_BEND, -this.kernels.f64[at], -this.kernels.f64[at + 1]);
  }

  private arrive(): void {
    this.write(GAIN_NOW, ...this.targets);
  }

  private write(field: number, left: number, right: number): void {
    const at = (this.state + field) >> 3;
    this.kernels.f64[at] = left;
    this.kernels.f64[at + 1] = right;
  }
}
