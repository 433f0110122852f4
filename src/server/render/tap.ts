import type { WordLength } from '../../core/deliver/format';
import { Kernels } from '../../core/kernels/host';
import { QUANTUM } from '../../core/kernels/layout';
import { Annex2Meter } from '../../core/measure/annex2-meter';
import { PeakMeter } from '../../core/measure/peak';
import { amplitude, decibels } from '../../core/signal/decibels';
import { BLOCK } from './through-stages';

/** Word length of a file; float is not rounded. */
export type Depth = WordLength | '32f';

/** Readings of one peak differ by this much between the meters: a limiter's own ceiling needs no guard (dB). */
const SAME_DB = 0.01;
/** And this much by the method of ITU-R BS.1770 Annex 2, which reads some signals higher than a finer one (dB). */
const SAME_ANNEX2_DB = 0.05;
/** Full scale of the longest word that has a grid. */
const FINEST = 2 ** 23;

/** What has to be known of a signal before it becomes a file; levels are linear. */
export interface Noted {
  frames: number;
  lowest: number;
  highest: number;
  /** True peak by the long filter, and by that of ITU-R BS.1770 Annex 2. */
  truePeak: number;
  annex2Peak: number;
  /** Bits in use, from the top, 0 in silence; null when the samples lie on no 24-bit grid. */
  bitsUsed: number | null;
}

/** What is noted of a signal after a change of level in dB. */
export function atLevelNoted(noted: Noted, levelDb: number): Noted {
  if (levelDb === 0) return noted;
  const { frames, lowest, highest, truePeak, annex2Peak, bitsUsed } = noted;
  const gain = amplitude(levelDb);
  return {
    ...{ frames, lowest: lowest * gain, highest: highest * gain },
    ...{ truePeak: truePeak * gain, annex2Peak: annex2Peak * gain },
    // No change in dB moves samples from grid to grid.
    bitsUsed: bitsUsed === 0 ? 0 : null,
  };
}

/** dB by which true peaks are over a limit in dBTP by the meter that reads more over; not above 0 when both hold. */
export function excessDb({ truePeak, annex2Peak }: Noted, limitDbtp: number): number {
  const fine = decibels(truePeak) - limitDbtp;
  const annex2 = decibels(annex2Peak) - limitDbtp;
  return Math.max(fine > SAME_DB ? fine : 0, annex2 > SAME_ANNEX2_DB ? annex2 : 0);
}

/** Whether every sample lies on the grid of a word length already. */
export function isOnGrid({ bitsUsed, lowest, highest }: Noted, depth: WordLength): boolean {
  return bitsUsed !== null && bitsUsed <= depth && lowest >= -1 && highest < 1;
}

/** Between which samples a file of a word length holds a signal: a step beyond either end is what rounding may come to. */
export function heldRange(depth: Depth): [lowest: number, highest: number] {
  if (depth === '32f') return [-Infinity, Infinity];
  const scale = 2 ** (depth - 1);
  return [-1 - 1.5 / scale, 1 + 0.5 / scale];
}

/** Passes a signal on while noting what has to be known of it. */
export class Tap {
  private readonly kernels = new Kernels();
  private readonly addresses = [this.kernels.allocate(BLOCK * 8), this.kernels.allocate(BLOCK * 8)] as const;
  private readonly peak = new PeakMeter(this.kernels, BLOCK);
  private readonly annex2 = new Annex2Meter();
  private frames = 0;
  private lowest = 0;
  private highest = 0;
  private bitUse = 0;
  private onGrid = true;

  async *follow(input: AsyncIterable<Float64Array>): AsyncGenerator<Float64Array> {
    for await (const chunk of input) {
      this.frames += chunk.length / 2;
      this.look(chunk);
      this.measure(chunk);
      yield chunk;
    }
    this.measure(new Float64Array(2 * QUANTUM));
  }

  private look(chunk: Float64Array): void {
    let { lowest, highest, bitUse, onGrid } = this;
    for (let i = 0; i < chunk.length; i++) {
      const x = chunk[i];
      if (x < lowest) lowest = x;
      else if (x > highest) highest = x;
      const integer = x * FINEST;
      const whole = integer | 0;
      bitUse |= whole;
      if (whole !== integer) onGrid = false;
    }
    Object.assign(this, { lowest, highest, bitUse, onGrid });
  }

  private measure(chunk: Float64Array): void {
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

  /** What was noted of all that has passed. */
  noted(): Noted {
    const { frames, lowest, highest, bitUse, onGrid } = this;
    const unused = bitUse === 0 ? 24 : 31 - Math.clz32(bitUse & -bitUse);
    return {
      ...{ frames, lowest, highest, bitsUsed: onGrid ? 24 - unused : null },
      ...{ truePeak: Math.max(...this.peak.truePeaks()), annex2Peak: this.annex2.truePeak() },
    };
  }
}
