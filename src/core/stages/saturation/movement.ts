import type { Kernels } from '../../kernels/host';
import { QUANTUM } from '../../kernels/layout';
import { arithmetic } from '../../signal/arithmetic';
import type { SaturationSettings } from './settings';

const LEVEL_SECONDS = 0.06;
/** RMS levels in dBFS at which the amount is full, and at which only what the depth leaves remains. */
const LOUD_DBFS = -12;
const QUIET_DBFS = -42;
const SILENCE = 1e-12;
/** Two sines that hardly ever coincide make a wandering one. */
const SECOND_WAVE = 0.6180339887;
/** Above this rate in Hz the amount is computed several times in a quantum, so that 300 Hz has 18 points a period. */
const FINE_RATE_HZ = 1;
const FINE_PARTS = 16;

/** The share of the amount over each quantum: still, following the level, or wandering with the place in the track. */
export class Movement {
  private readonly sums: number;
  private readonly pairs: number;
  private readonly share: number;
  private energy = 0;
  private readonly fine = new Float64Array(FINE_PARTS + 1).fill(1);
  private readonly coarse = new Float64Array(2).fill(1);
  /** Shares at the ends of equal parts of the last quantum, with straight lines between them. */
  shares = this.coarse;

  constructor(
    private readonly kernels: Kernels,
    private readonly sampleRate: number,
  ) {
    this.share = 1 - arithmetic().exp(-QUANTUM / (sampleRate * LEVEL_SECONDS));
    this.sums = kernels.allocate(24);
    this.pairs = kernels.allocate(QUANTUM * 16);
  }

  /** Continues from another. */
  copy(before: Movement): void {
    this.energy = before.energy;
    this.shares[this.shares.length - 1] = before.shares[before.shares.length - 1];
  }

  /** Takes one quantum of the input, which starts at a frame of the track. */
  follow({ movement, depthPercent, rateHz }: SaturationSettings, left: number, right: number, frame: number): void {
    const last = this.shares[this.shares.length - 1];
    this.shares = movement === 'wander' && rateHz > FINE_RATE_HZ ? this.fine : this.coarse;
    const { shares } = this;
    const parts = shares.length - 1;
    const depth = depthPercent / 100;
    shares[0] = last;
    for (let part = 1; part <= parts; part++) {
      if (movement === 'still') shares[part] = 1;
      else if (movement === 'level') shares[part] = 1 - depth * (1 - this.byLevel(left, right));
      else shares[part] = 1 - depth * (1 - this.wandering(rateHz, frame + (part * QUANTUM) / parts));
    }
  }

  private byLevel(left: number, right: number): number {
    const { run, f64 } = this.kernels;
    f64.fill(0, this.sums >> 3, (this.sums >> 3) + 3);
    run.toPairs(left, right, this.pairs, QUANTUM);
    run.products(this.pairs, QUANTUM, this.sums);
    const mean = (f64[this.sums >> 3] + f64[(this.sums >> 3) + 1]) / (2 * QUANTUM);
    // NaN must not stay.
    this.energy += (Number.isFinite(mean) ? mean - this.energy : 0) * this.share;
    if (this.energy < SILENCE) this.energy = 0;
    const db = (10 / Math.LN10) * arithmetic().log(Math.max(SILENCE, this.energy));
    return Math.max(0, Math.min(1, (db - QUIET_DBFS) / (LOUD_DBFS - QUIET_DBFS)));
  }

  private wandering(rateHz: number, frame: number): number {
    const { sin } = arithmetic();
    const turns = (rateHz * frame) / this.sampleRate;
    const wave = (t: number) => sin(2 * Math.PI * (t - Math.floor(t)));
    return 0.5 + 0.3 * wave(turns) + 0.2 * wave(turns * SECOND_WAVE);
  }
}
