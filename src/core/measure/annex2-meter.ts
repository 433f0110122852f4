import { ANNEX2_PHASES } from '../kernels/interpolator';

const TAPS = 12;
/** Frames that are left out together when nothing around them can hold the peak. */
const RUN = 16;
/** Samples checked at a time, plus the earlier ones that their windows reach back to. */
const BLOCK = 4096;

/**
 * True peak of interleaved stereo by the plain method of ITU-R BS.1770 Annex 2, in float64: 4x by the published 48-tap
 * filter. It reads a little lower than {@link PeakMeter} near 20 kHz and a little higher elsewhere; a file is held to
 * both.
 */
export class Annex2Meter {
  private readonly phases = [
    ...ANNEX2_PHASES,
    ...[...ANNEX2_PHASES].reverse().map((phase) => [...phase].reverse()),
  ].map((phase) => Float64Array.from(phase));
  /** No phase makes more of its window than its largest sample times this. */
  private readonly most = Math.max(...this.phases.map((phase) => phase.reduce((sum, tap) => sum + Math.abs(tap), 0)));
  private readonly windows = [new Float64Array(BLOCK + TAPS - 1), new Float64Array(BLOCK + TAPS - 1)];
  private peak = 0;

  /** Interleaved samples: left and right in turn. */
  add(samples: Float64Array): void {
    for (let at = 0; at < samples.length; at += 2 * BLOCK) {
      const frames = Math.min(BLOCK, (samples.length - at) / 2);
      for (let channel = 0; channel < 2; channel++) {
        const window = this.windows[channel];
        for (let i = 0; i < frames; i++) window[TAPS - 1 + i] = samples[at + 2 * i + channel];
        this.look(window, frames);
        window.copyWithin(0, frames, frames + TAPS - 1);
      }
    }
  }

  private look(window: Float64Array, frames: number): void {
    for (let from = 0; from < frames; from += RUN) {
      const to = Math.min(frames, from + RUN);
      let largest = 0;
      for (let i = from; i < to + TAPS - 1; i++) {
        const size = Math.abs(window[i]);
        if (size > largest) largest = size;
      }
      if (largest * this.most > this.peak) this.interpolate(window, from, to);
    }
  }

  private interpolate(window: Float64Array, from: number, to: number): void {
    let peak = this.peak;
    for (let p = 0; p < this.phases.length; p++) {
      const phase = this.phases[p];
      for (let i = from; i < to; i++) {
        let sum = 0;
        for (let k = 0; k < TAPS; k++) sum += phase[k] * window[i + k];
        const size = sum < 0 ? -sum : sum;
        if (size > peak) peak = size;
      }
    }
    this.peak = peak;
  }

  /** Linear, of the louder channel. */
  truePeak(): number {
    return this.peak;
  }
}
