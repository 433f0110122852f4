import type { Kernels } from '../kernels/host';
import { LoudnessMeter } from './loudness';
import { PeakMeter } from './peak';

/** Loudness and peaks at one place of a lane: what the ribbon is drawn from. */
export class JointMeter {
  readonly loudness: LoudnessMeter;
  readonly peak: PeakMeter;
  private position = 0;

  /**
   * `hops` of 10 ms that the loudness remembers. Frames before the first `delay`, and later than `trackFrames` after
   * them, don't count for the loudness: a stage's latency, and its tail.
   */
  constructor(
    kernels: Kernels,
    sampleRate: number,
    maxFrames: number,
    hops: number,
    private readonly delay = 0,
    private readonly trackFrames = Infinity,
  ) {
    this.loudness = new LoudnessMeter(kernels, sampleRate, hops);
    this.peak = new PeakMeter(kernels, maxFrames);
  }

  /** Addresses of planar f64 channels; frames a multiple of 16. */
  add(left: number, right: number, frames: number): void {
    const from = this.delay - this.position;
    const first = Math.max(0, from);
    const count = Math.min(frames, from + this.trackFrames) - first;
    if (count > 0) this.loudness.add(left + first * 8, right + first * 8, count);
    this.peak.add(left, right, frames);
    this.position += frames;
  }
}
