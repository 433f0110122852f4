import { Kernels } from '../kernels/host';
import {
  DITHER_BYTES,
  DITHER_CLIPPED,
  DITHER_FILTER,
  DITHER_HIGH_PASS,
  DITHER_KIND,
  DITHER_MOST_TAPS,
  DITHER_NONE,
  DITHER_RANDOM,
  DITHER_SCALE,
  DITHER_SILENT_FRAMES,
  DITHER_TAPS,
  DITHER_TRIANGULAR,
  DITHER_UNIFORM,
} from '../kernels/layout';
import { Random } from '../signal/random';
import type { WordLength } from './format';
import { noiseShaper } from './noise-shaping';

/** What is added before rounding to a word length. */
export const DITHERS = ['none', 'TPDF', 'high-pass TPDF', 'noise-shaped'] as const;
export type Dither = (typeof DITHERS)[number];

/** Seconds of silence after which digital silence begins. */
const SILENT_SECONDS = 0.1;
/** Frames of silence that nothing lasts. */
const NEVER = 2 ** 32 - 1;
/** Samples that are rounded at a time. */
const BLOCK = 4096;
const KINDS: Record<Dither, number> = {
  none: DITHER_NONE,
  TPDF: DITHER_TRIANGULAR,
  'high-pass TPDF': DITHER_HIGH_PASS,
  'noise-shaped': DITHER_TRIANGULAR,
};

export interface DitherOptions {
  depth: WordLength;
  dither: Dither;
  /** Hz: noise is shaped for it. */
  sampleRate: number;
  seeds?: readonly [left: number, right: number];
  /** Writes zeros where the signal has been silent for a tenth of a second. */
  digitalSilence?: boolean;
}

/**
 * Rounds to a word length. TPDF: triangular dither of 2 LSB peak to peak, so that the error's mean and variance do not
 * depend on the signal (S. Lipshitz, R. Wannamaker, J. Vanderkooy, "Quantization and Dither", JAES 1992; from memory).
 * High-pass TPDF: the difference of successive uniform numbers, the same with less of it in the lows. Noise-shaped: TPDF
 * with the error fed back through a filter for the rate. The dither is seeded, for each channel by itself: the same signal
 * and seeds give the same bits. Files that may meet in one signal, as generations of a master do, need seeds of their own, or
 * their errors add up in step.
 */
export class Ditherer {
  private readonly kernels = new Kernels();
  private readonly states: readonly number[];
  private readonly input = this.kernels.allocate(BLOCK * 8);
  private readonly output = this.kernels.allocate(BLOCK * 4);

  /** Throws when the filter of a rate has more taps than the kernel. */
  constructor({ depth, dither, sampleRate, seeds = [1, 2], digitalSilence = false }: DitherOptions) {
    const { kernels } = this;
    const filter = dither === 'noise-shaped' ? noiseShaper(sampleRate) : [];
    if (filter.length > DITHER_MOST_TAPS) throw new RangeError('The error filter has too many taps.');
    this.states = seeds.map((seed) => {
      const state = kernels.allocate(DITHER_BYTES);
      const random = new Random(seed);
      // High-pass dither has a number before the first.
      kernels.f64[(state + DITHER_UNIFORM) >> 3] = dither === 'high-pass TPDF' ? random.uniform() : 0;
      kernels.u32.set(random.state, (state + DITHER_RANDOM) >> 2);
      kernels.f64[(state + DITHER_SCALE) >> 3] = 2 ** (depth - 1);
      kernels.u32[(state + DITHER_KIND) >> 2] = KINDS[dither];
      kernels.u32[(state + DITHER_TAPS) >> 2] = filter.length;
      kernels.u32[(state + DITHER_SILENT_FRAMES) >> 2] = digitalSilence
        ? Math.round(SILENT_SECONDS * sampleRate)
        : NEVER;
      kernels.view64(state + DITHER_FILTER, filter.length).set(filter);
      return state;
    });
  }

  /** Samples that had to be held at the ends of the scale. */
  get clipped(): number {
    return this.states.reduce((sum, state) => sum + this.kernels.u32[(state + DITHER_CLIPPED) >> 2], 0);
  }

  /** Integer samples of one channel (0 left, 1 right), full scale at ±2^(depth−1). Not-a-number becomes silence. */
  process(channel: 0 | 1, input: Float64Array, output: Int32Array): void {
    const { kernels } = this;
    for (let from = 0; from < input.length; from += BLOCK) {
      const frames = Math.min(BLOCK, input.length - from);
      kernels.view64(this.input, frames).set(input.subarray(from, from + frames));
      kernels.run.dither(this.states[channel], this.input, this.output, frames);
      output.set(kernels.i32.subarray(this.output >> 2, (this.output >> 2) + frames), from);
    }
  }
}
