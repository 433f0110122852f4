import { FINE_BOUNDS, type Kernels } from '../kernels/host';
import { decibels } from '../signal/decibels';
import { GROUP, TAPS, TP_OVERS, TP_PEAK, TP_SAMPLE_PEAK, TP_SIGNAL } from '../kernels/layout';

/** Values of an f32x4. */
const LANES = 4;

/** A value for each channel. */
export type Channels = [left: number, right: number];

/** Levels in dB of two amplitudes. */
export function inDecibels([left, right]: Readonly<Channels>): Channels {
  return [decibels(left), decibels(right)];
}

/** Sample peak and true peak (4x interpolation, 32 taps a phase) of both channels, and frames whose true peak is over full scale. */
export class PeakMeter {
  private readonly states: Channels;

  constructor(
    private readonly kernels: Kernels,
    maxFrames: number,
  ) {
    const bytes = TP_SIGNAL + (TAPS + maxFrames) * 4;
    this.states = [kernels.allocate(bytes), kernels.allocate(bytes)];
  }

  /** Addresses of planar f64 channels; frames a multiple of 16. */
  add(left: number, right: number, frames: number): void {
    if (frames % GROUP !== 0) throw new RangeError('Peaks are measured in multiples of 16 frames.');
    const { run } = this.kernels;
    const [onLevel, onBend] = FINE_BOUNDS;
    run.truePeak(this.states[0], left, frames, onLevel, onBend);
    run.truePeak(this.states[1], right, frames, onLevel, onBend);
  }

  /** Linear, of the samples as f32. */
  samplePeaks(): Channels {
    return [this.samplePeak(0), this.samplePeak(1)];
  }

  /** Linear; never below the sample peak. */
  truePeaks(): Channels {
    return [this.truePeak(0), this.truePeak(1)];
  }

  /** Sample peak of channel 0 or 1, linear. */
  samplePeak(channel: number): number {
    const at = (this.states[channel] + TP_SAMPLE_PEAK) >> 2;
    let most = 0;
    for (let i = at; i < at + LANES; i++) most = Math.max(most, this.kernels.f32[i]);
    return most;
  }

  /** True peak of channel 0 or 1, linear; never below the sample peak. */
  truePeak(channel: number): number {
    return Math.max(this.kernels.f32[(this.states[channel] + TP_PEAK) >> 2], this.samplePeak(channel));
  }

  /** Frames over full scale between or at the samples, both channels together. */
  overs(): number {
    const count = (channel: 0 | 1) => this.kernels.u32[(this.states[channel] + TP_OVERS) >> 2];
    return count(0) + count(1);
  }

  /** Starts the peaks over, for a live meter's next reading. */
  clear(): void {
    for (const state of this.states) {
      this.kernels.f32[(state + TP_PEAK) >> 2] = 0;
      this.kernels.f32.fill(0, (state + TP_SAMPLE_PEAK) >> 2, ((state + TP_SAMPLE_PEAK) >> 2) + LANES);
    }
  }
}
