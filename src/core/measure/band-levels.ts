import type { Kernels } from '../kernels/host';
import { QUANTUM } from '../kernels/layout';
import { decibels } from '../signal/decibels';
import { BandSplitter, makeBands, PAIRS_BYTES } from '../stages/bands/band-splitter';
import type { Crossovers } from '../stages/bands/crossovers';

/** Seconds of each value. */
const HOP_SECONDS = 0.02;
/** The lowest level in dBFS that is told apart, and how many whole decibels there are from it to full scale. */
export const LOWEST_DB = -72;
export const LEVEL_CLASSES = 1 - LOWEST_DB;

/** The highest samples of each band of the lane: now, and how often at which level. */
export class BandLevelMeter {
  private readonly splitter: BandSplitter;
  private readonly bands: number[];
  private readonly pairs: number;
  private readonly hopFrames: number;
  private filled = 0;
  /** Highest sample of each band in this hop, and since the last call of {@link take}. */
  private readonly hop: Float64Array;
  private readonly recent: Float64Array;
  private readonly counts: Float64Array[];
  private hops = 0;

  constructor(
    private readonly kernels: Kernels,
    sampleRate: number,
    readonly crossovers: Crossovers,
  ) {
    this.splitter = new BandSplitter({ kernels, sampleRate });
    this.splitter.set(crossovers);
    this.bands = makeBands({ kernels });
    this.pairs = kernels.allocate(PAIRS_BYTES);
    this.hopFrames = Math.round(HOP_SECONDS * sampleRate);
    this.hop = new Float64Array(this.splitter.count);
    this.recent = new Float64Array(this.splitter.count);
    this.counts = Array.from({ length: this.splitter.count }, () => new Float64Array(LEVEL_CLASSES));
  }

  /** Addresses of planar f64 channels; a multiple of the quantum. */
  add(left: number, right: number, frames: number): void {
    const { run, f64 } = this.kernels;
    const { hop, bands } = this;
    for (let done = 0; done < frames; done += QUANTUM) {
      run.toPairs(left + done * 8, right + done * 8, this.pairs, QUANTUM);
      this.splitter.split(this.pairs, bands, QUANTUM);
      for (let b = 0; b < hop.length; b++) {
        const at = bands[b] >> 3;
        let most = hop[b];
        for (let i = at; i < at + 2 * QUANTUM; i++) {
          const size = f64[i] < 0 ? -f64[i] : f64[i];
          if (size > most) most = size;
        }
        hop[b] = most;
        if (most > this.recent[b]) this.recent[b] = most;
      }
      this.filled += QUANTUM;
      if (this.filled >= this.hopFrames) this.turn();
    }
  }

  private turn(): void {
    this.filled = 0;
    this.hops++;
    for (let b = 0; b < this.hop.length; b++) {
      const level = Math.round(decibels(this.hop[b]));
      if (level >= LOWEST_DB) this.counts[b][Math.min(LEVEL_CLASSES - 1, level - LOWEST_DB)]++;
      this.hop[b] = 0;
    }
  }

  /** Highest sample of each band since the last call in dBFS, from the lowest band up. */
  take(): number[] {
    const levels = Array.from(this.recent, decibels);
    this.recent.fill(0);
    return levels;
  }

  /** For each band the share of the time at each whole decibel from {@link LOWEST_DB} up. */
  result(): Float32Array[] {
    return this.counts.map((counts) => Float32Array.from(counts, (count) => count / Math.max(1, this.hops)));
  }
}
