import type { Kernels } from '../../kernels/host';
import { QUANTUM } from '../../kernels/layout';
import { arithmetic } from '../../signal/arithmetic';
import type { SaturationSettings } from './settings';

const LEVEL_SECONDS = 0.06;
/** RMS levels in dBFS at which the amount is whole, and at which nothing but what the depth leaves is there. */
const LOUD_DBFS = -12;
const QUIET_DBFS = -42;
const SILENCE = 1e-12;
/** Two waves that hardly ever meet make a wandering one. */
const SECOND_WAVE = 0.6180339887;

/** The share of the amount from quantum to quantum: still, with the level, or wandering. */
export class Movement {
  private readonly sums: number;
  private readonly pairs: number;
  private readonly share: number;
  private readonly quantumSeconds: number;
  private energy = 0;
  private quanta = 0;
  /** Shares at the first and at the last frame of the last quantum. */
  from = 1;
  to = 1;

  constructor(
    private readonly kernels: Kernels,
    sampleRate: number,
  ) {
    this.quantumSeconds = QUANTUM / sampleRate;
    this.share = 1 - arithmetic().exp(-this.quantumSeconds / LEVEL_SECONDS);
    this.sums = kernels.allocate(24);
    this.pairs = kernels.allocate(QUANTUM * 16);
  }

  /** Goes on from where another is. */
  copy(before: Movement): void {
    this.energy = before.energy;
    this.quanta = before.quanta;
    this.from = before.from;
    this.to = before.to;
  }

  /** Takes one quantum of what goes in. */
  follow({ movement, depthPercent, rateHz }: SaturationSettings, left: number, right: number): void {
    this.from = this.to;
    this.quanta++;
    if (movement === 'still') {
      this.to = 1;
      return;
    }
    const share = movement === 'level' ? this.byLevel(left, right) : this.wandering(rateHz);
    this.to = 1 - (depthPercent / 100) * (1 - share);
  }

  private byLevel(left: number, right: number): number {
    const { run, f64 } = this.kernels;
    f64.fill(0, this.sums >> 3, (this.sums >> 3) + 3);
    run.toPairs(left, right, this.pairs, QUANTUM);
    run.products(this.pairs, QUANTUM, this.sums);
    const mean = (f64[this.sums >> 3] + f64[(this.sums >> 3) + 1]) / (2 * QUANTUM);
    // What is no number must not stay.
    this.energy += (Number.isFinite(mean) ? mean - this.energy : 0) * this.share;
    if (this.energy < SILENCE) this.energy = 0;
    const db = (10 / Math.LN10) * arithmetic().log(Math.max(SILENCE, this.energy));
    return Math.max(0, Math.min(1, (db - QUIET_DBFS) / (LOUD_DBFS - QUIET_DBFS)));
  }

  private wandering(rateHz: number): number {
    const { sin } = arithmetic();
    const turns = rateHz * this.quanta * this.quantumSeconds;
    const wave = (t: number) => sin(2 * Math.PI * (t - Math.floor(t)));
    return 0.5 + 0.3 * wave(turns) + 0.2 * wave(turns * SECOND_WAVE);
  }
}
