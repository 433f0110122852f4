/** Long enough not to click, short enough to feel at once. */
export const FADE_SECONDS = 0.015;

/** A value that moves to its target along two parabolas, with a gentle start and end. */
export class Ramp {
  private step = 0;
  private bend = 0;
  private remaining = 0;
  private target: number;
  private readonly half: number;

  constructor(
    public value: number,
    frames: number,
  ) {
    this.target = value;
    this.half = Math.round(frames / 2);
  }

  moveTo(target: number): void {
    if (target === this.target) return;
    this.target = target;
    this.remaining = 2 * this.half;
    this.step = 0;
    this.bend = (target - this.value) / (this.half * this.half);
  }

  next(): number {
    if (this.remaining > 0) {
      if (this.remaining === this.half) this.bend = -this.bend;
      this.value += this.step;
      this.step += this.bend;
      if (--this.remaining === 0) this.value = this.target;
    }
    return this.value;
  }

  /** Is at its target at once. */
  finish(): void {
    this.value = this.target;
    this.remaining = 0;
  }

  /** Starts at a value without moving. */
  reset(value: number): void {
    this.value = value;
    this.target = value;
    this.remaining = 0;
  }

  get resting(): boolean {
    return this.remaining === 0;
  }
}
