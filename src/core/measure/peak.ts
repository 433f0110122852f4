import { FINE_BOUNDS, type Kernels } from '../kernels/host';
import { GROUP, TAPS, TP_OVERS, TP_PEAK, TP_SAMPLE_PEAK, TP_SIGNAL } from '../kernels/layout';

/** Values of an f32x4. */
const LANES = 4;

/** A value for each side. */
export type Sides = [left: number, right: number];

/** Sample peak and true peak (4x interpolation, 32 taps a phase) of both sides, and frames whose true peak is over full scale. */
export class PeakMeter {
  private readonly states: Sides;

  constructor(
    private readonly kernels: Kernels,
    maxFrames: number,
  ) {
    const bytes = TP_SIGNAL + (TAPS + maxFrames) * 4;
    this.states = [kernels.allocate(bytes), kernels.allocate(bytes)];
  }

  /** Addresses of planar f64 sides; frames a multiple of 16. */
  add(left: number, right: number, frames: number): void {
    if (frames % GROUP !== 0) throw new RangeError('Peaks are measured in multiples of 16 frames.');
    const { run } = this.kernels;
    const [onLevel, onBend] = FINE_BOUNDS;
    run.truePeak(this.states[0], left, frames, onLevel, onBend);
    run.truePeak(this.states[1], right, frames, onLevel, onBend);
  }

  /** Linear, of the samples as f32. */
  samplePeaks(): Sides {
    return [this.samplePeak(0), this.samplePeak(1)];
  }

  /** Linear; never below the sample peak. */
  truePeaks(): Sides {
    const peak = (side: 0 | 1) => Math.max(this.kernels.f32[(this.states[side] + TP_PEAK) >> 2], this.samplePeak(side));
    return [peak(0), peak(1)];
  }

  /** Frames over full scale between or at the samples, both sides together. */
  overs(): number {
    const count = (side: 0 | 1) => this.kernels.u32[(this.states[side] + TP_OVERS) >> 2];
    return count(0) + count(1);
  }

  /** Begins the peaks anew, for a live meter's next reading. */
  clear(): void {
    for (const state of this.states) {
      this.kernels.f32[(state + TP_PEAK) >> 2] = 0;
      this.kernels.f32.fill(0, (state + TP_SAMPLE_PEAK) >> 2, ((state + TP_SAMPLE_PEAK) >> 2) + LANES);
    }
  }

  private samplePeak(side: 0 | 1): number {
    const at = (this.states[side] + TP_SAMPLE_PEAK) >> 2;
    return Math.max(...this.kernels.f32.subarray(at, at + LANES));
  }
}
