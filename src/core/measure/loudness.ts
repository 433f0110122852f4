import type { Kernels } from '../kernels/host';
import { KW_BYTES, KW_ENERGY, KW_HIGH_PASS, KW_SHELF } from '../kernels/layout';
import { kWeighting } from '../signal/k-weighting';
import {
  HOPS_PER_SECOND,
  loudness,
  loudnessReport,
  MOMENTARY_HOPS,
  SHORT_TERM_HOPS,
  type LoudnessReport,
} from './loudness-statistics';

/** Loudness of a stereo signal by ITU-R BS.1770, gathered as mean energies of 10 ms hops. */
export class LoudnessMeter {
  private readonly state: number;
  private readonly hopFrames: number;
  private filled = 0;
  /** Hops completed so far; only the newest `capacity` are kept. */
  hopCount = 0;
  private readonly hops: Float64Array;

  /** `capacity` in hops of 10 ms; give the whole track's for {@link report}, 3 s suffice for the live readings. */
  constructor(
    private readonly kernels: Kernels,
    sampleRate: number,
    private readonly capacity: number,
  ) {
    this.hopFrames = Math.round(sampleRate / HOPS_PER_SECOND);
    this.hops = new Float64Array(capacity);
    this.state = kernels.allocate(KW_BYTES);
    const { shelf, highPass } = kWeighting(sampleRate);
    const splat = (address: number, values: number[]) =>
      values.forEach((value, i) => kernels.f64.fill(value, (address >> 3) + i * 2, (address >> 3) + i * 2 + 2));
    splat(this.state + KW_SHELF, [shelf.b0, shelf.b1, shelf.b2, shelf.a1, shelf.a2]);
    splat(this.state + KW_HIGH_PASS, [highPass.a1, highPass.a2]);
  }

  /** Addresses of planar f64 channels; any number of frames. */
  add(left: number, right: number, frames: number): void {
    const { run, f64 } = this.kernels;
    const energy = (this.state + KW_ENERGY) >> 3;
    let done = 0;
    while (done < frames) {
      const part = Math.min(frames - done, this.hopFrames - this.filled);
      run.kWeightedEnergy(this.state, left + done * 8, right + done * 8, part);
      done += part;
      this.filled += part;
      if (this.filled === this.hopFrames) {
        this.hops[this.hopCount % this.capacity] = (f64[energy] + f64[energy + 1]) / this.hopFrames;
        this.hopCount++;
        this.filled = 0;
        f64[energy] = 0;
        f64[energy + 1] = 0;
      }
    }
  }

  /** Mean energy of the newest `span` hops, or of those before hop `end`. */
  meanEnergy(span: number, end = this.hopCount): number {
    if (end < span) return 0;
    let sum = 0;
    for (let i = end - span; i < end; i++) sum += this.hops[i % this.capacity];
    return sum / span;
  }

  /** LUFS over the last 400 ms. */
  momentary(): number {
    return loudness(this.meanEnergy(MOMENTARY_HOPS));
  }

  /** LUFS over the last 3 s. */
  shortTerm(): number {
    return loudness(this.meanEnergy(SHORT_TERM_HOPS));
  }

  /** Throws when more than `capacity` hops have passed. */
  report(): LoudnessReport {
    if (this.hopCount > this.capacity) throw new Error('The loudness meter was set up for a shorter track.');
    return loudnessReport(this.hops.subarray(0, this.hopCount));
  }
}
