import { createHash } from 'node:crypto';
import type { WordLength } from '../../core/deliver/format';
import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { Annex2Meter } from '../../core/measure/annex2-meter';
import { PeakMeter } from '../../core/measure/peak';
import { decibels } from '../../core/signal/decibels';
import { BLOCK } from './through-stages';

/** Word length of a file; float is not rounded. */
export type Depth = WordLength | '32f';

/** Readings of one peak differ by this much between the meters: a limiter's own ceiling needs no guard (dB). */
const SAME_DB = 0.01;
/** And this much by the method of ITU-R BS.1770 Annex 2, which reads some signals higher than a finer one (dB). */
const SAME_ANNEX2_DB = 0.05;

/** Passes a signal on while noting what has to be known of it before it becomes a file. */
export class Tap {
  private readonly kernels = new Kernels();
  private readonly addresses = [this.kernels.allocate(BLOCK * 8), this.kernels.allocate(BLOCK * 8)] as const;
  private readonly peak = new PeakMeter(this.kernels, BLOCK);
  private readonly annex2 = new Annex2Meter();
  private readonly hash = createHash('sha256');
  private readonly scale: number;
  frames = 0;
  /** Samples that an integer file of this depth cannot hold. */
  overFullScale = 0;
  /** Whether every sample lies on the grid of the depth. */
  onGrid = true;

  constructor(depth: Depth) {
    this.scale = depth === '32f' ? Infinity : 2 ** (depth - 1);
  }

  async *follow(input: AsyncIterable<Float64Array>): AsyncGenerator<Float64Array> {
    for await (const chunk of input) {
      this.hash.update(Buffer.from(chunk.buffer, chunk.byteOffset, chunk.byteLength));
      this.look(chunk);
      this.add(chunk);
      yield chunk;
    }
    this.add(new Float64Array(2 * QUANTUM));
    this.frames -= QUANTUM;
  }

  private look(chunk: Float64Array): void {
    const { scale } = this;
    if (scale === Infinity) return;
    for (let i = 0; i < chunk.length; i++) {
      const value = chunk[i] * scale;
      // A step beyond either end is what rounding and dither may come to.
      if (value > scale + 0.5 || value < -scale - 1.5) this.overFullScale++;
      if (value !== Math.floor(value) || value >= scale || value < -scale) this.onGrid = false;
    }
  }

  private add(chunk: Float64Array): void {
    this.frames += chunk.length / 2;
    this.annex2.add(chunk);
    const [left, right] = this.addresses.map((address) => this.kernels.view64(address, BLOCK));
    for (let at = 0; at < chunk.length; at += 2 * BLOCK) {
      const frames = Math.min(BLOCK, (chunk.length - at) / 2);
      const padded = Math.ceil(frames / QUANTUM) * QUANTUM;
      left.fill(0, frames, padded);
      right.fill(0, frames, padded);
      for (let i = 0; i < frames; i++) {
        left[i] = chunk[at + i * 2];
        right[i] = chunk[at + i * 2 + 1];
      }
      this.peak.add(...this.addresses, padded);
    }
  }

  /** dB by which true peaks are over a limit in dBTP by the meter that reads more over; not above 0 when both hold. */
  excessDb(limitDbtp: number): number {
    const fine = decibels(Math.max(...this.peak.truePeaks())) - limitDbtp;
    const annex2 = decibels(this.annex2.truePeak()) - limitDbtp;
    return Math.max(fine > SAME_DB ? fine : 0, annex2 > SAME_ANNEX2_DB ? annex2 : 0);
  }

  /** Seeds of the two channels' dither, from what is dithered and what it is dithered for. */
  seeds(request: unknown): [number, number] {
    const digest = this.hash.copy().update(JSON.stringify(request)).digest();
    return [digest.readUInt32LE(0), digest.readUInt32LE(4)];
  }
}
