import { FINE_BOUNDS, type Kernels } from '../kernels/host';
import { GROUP, TAPS, TP_OVERS, TP_PEAK, TP_SIGNAL } from '../kernels/layout';

/** A value for each side. */
export type Sides = [left: number, right: number];

/** Sample peak and true peak (4x interpolation, 32 taps a phase) of both sides, and frames whose true peak is over full scale. */
export class PeakMeter {
  private readonly states: Sides;
  private readonly extents: number;
  private readonly samplePeak: Sides = [0, 0];
  /** Lowest and highest sample of the last block, both sides together. */
  readonly blockExtent: [low: number, high: number] = [0, 0];

  constructor(
    private readonly kernels: Kernels,
    maxFrames: number,
  ) {
    const bytes = TP_SIGNAL + (TAPS + maxFrames) * 4;
    this.states = [kernels.allocate(bytes), kernels.allocate(bytes)];
    this.extents = kernels.allocate(32);
  }

  /** Addresses of planar f64 sides; frames a multiple of 16. */
  add(left: number, right: number, frames: number): void {
    if (frames % GROUP !== 0) throw new RangeError('Peaks are measured in multiples of 16 frames.');
    const { run, f64 } = this.kernels;
    const [onLevel, onBend] = FINE_BOUNDS;
    run.truePeak(this.states[0], left, frames, onLevel, onBend);
    run.truePeak(this.states[1], right, frames, onLevel, onBend);
    run.extent(left, frames, this.extents);
    run.extent(right, frames, this.extents + 16);
    const at = this.extents >> 3;
    for (let side = 0; side < 2; side++) {
      const size = Math.max(-f64[at + side * 2], f64[at + side * 2 + 1]);
      if (size > this.samplePeak[side]) this.samplePeak[side] = size;
    }
    this.blockExtent[0] = Math.min(f64[at], f64[at + 2]);
    this.blockExtent[1] = Math.max(f64[at + 1], f64[at + 3]);
  }

  /** Linear. */
  samplePeaks(): Sides {
    return [...this.samplePeak];
  }

  /** Linear; never below the sample peak. */
  truePeaks(): Sides {
    const peak = (side: 0 | 1) => Math.max(this.kernels.f32[(this.states[side] + TP_PEAK) >> 2], this.samplePeak[side]);
    return [peak(0), peak(1)];
  }

  /** Frames over full scale between or at the samples, both sides together. */
  overs(): number {
    const count = (side: 0 | 1) => this.kernels.u32[(this.states[side] + TP_OVERS) >> 2];
    return count(0) + count(1);
  }

  /** Begins the peaks anew, for a live meter's next reading. */
  clear(): void {
    this.samplePeak.fill(0);
    for (const state of this.states) this.kernels.f32[(state + TP_PEAK) >> 2] = 0;
  }
}
