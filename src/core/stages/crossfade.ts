import type { Kernels } from '../kernels/host';
import { GAIN_BEND, GAIN_BYTES, GAIN_NOW, GAIN_STEP, QUANTUM } from '../kernels/layout';

/** Seconds in which the new sound runs unheard, so that it has settled, and in which it then takes over. */
const SETTLE_SECONDS = 0.012;
const FADE_SECONDS = 0.02;

/**
 * Changes from one way of processing to another without a click: both run side by side, the new one first unheard, then
 * its share grows along two parabolas. Works in quanta.
 */
export class Crossfade {
  private readonly state: number;
  private readonly otherLeft: number;
  private readonly otherRight: number;
  private readonly settleQuanta: number;
  private readonly halfQuanta: number;
  /** Quanta since the change began; −1 when none is under way. */
  private quantum = -1;

  constructor(
    private readonly kernels: Kernels,
    sampleRate: number,
  ) {
    this.state = kernels.allocate(GAIN_BYTES);
    this.otherLeft = kernels.allocate(QUANTUM * 8);
    this.otherRight = kernels.allocate(QUANTUM * 8);
    this.settleQuanta = Math.ceil((SETTLE_SECONDS * sampleRate) / QUANTUM);
    this.halfQuanta = Math.ceil((FADE_SECONDS * sampleRate) / QUANTUM / 2);
  }

  get running(): boolean {
    return this.quantum >= 0;
  }

  begin(): void {
    const half = this.halfQuanta * QUANTUM;
    this.quantum = 0;
    this.write(GAIN_NOW, 0);
    this.write(GAIN_STEP, 0);
    this.write(GAIN_BEND, 1 / (half * half));
  }

  /** One quantum in place by `from` and `to`, which process the buffers at the addresses given; true when `to` has taken over. */
  process(
    left: number,
    right: number,
    from: (l: number, r: number) => void,
    to: (l: number, r: number) => void,
  ): boolean {
    const { f64, run } = this.kernels;
    f64.copyWithin(this.otherLeft >> 3, left >> 3, (left >> 3) + QUANTUM);
    f64.copyWithin(this.otherRight >> 3, right >> 3, (right >> 3) + QUANTUM);
    from(left, right);
    to(this.otherLeft, this.otherRight);
    const fading = this.quantum - this.settleQuanta;
    if (fading === this.halfQuanta) this.write(GAIN_BEND, -f64[(this.state + GAIN_BEND) >> 3]);
    if (fading >= 0) run.crossfade(this.state, left, right, this.otherLeft, this.otherRight, QUANTUM);
    this.quantum = fading + 1 === 2 * this.halfQuanta ? -1 : this.quantum + 1;
    return this.quantum < 0;
  }

  private write(field: number, value: number): void {
    const at = (this.state + field) >> 3;
    this.kernels.f64[at] = value;
    this.kernels.f64[at + 1] = value;
  }
}
