import { Random } from '../signal/random';
import type { WordLength } from './format';
import { noiseShaper } from './noise-shaping';

/** What is added before rounding to a word length. */
export const DITHERS = ['none', 'TPDF', 'high-pass TPDF', 'noise-shaped'] as const;
export type Dither = (typeof DITHERS)[number];

/** Below this, in steps of the word length, a signal is silent. */
const SILENT_STEPS = 1 / 256;
/** Seconds of silence after which digital silence begins. */
const SILENT_SECONDS = 0.1;
/** Samples that are rounded at a time. */
const BLOCK = 2048;
/** Errors are kept within these, in steps: more there are only where the scale ends. */
const MOST_ERROR = 2;

export interface DitherOptions {
  depth: WordLength;
  dither: Dither;
  /** Hz: noise is shaped for it. */
  sampleRate: number;
  seeds?: readonly [left: number, right: number];
  /** Writes zeros where the signal has been silent for a tenth of a second. */
  digitalSilence?: boolean;
}

/** What one channel remembers. */
interface ChannelState {
  random: Random;
  /** The last uniform number, in steps. */
  uniform: number;
  /** Errors of the samples before, the newest at `at`. */
  errors: Float64Array;
  at: number;
  silent: number;
}

/** Random numbers of a channel; high-pass dither has one before the first. */
function newRandom(seed: number, dither: Dither): Pick<ChannelState, 'random' | 'uniform'> {
  const random = new Random(seed);
  return { random, uniform: dither === 'high-pass TPDF' ? random.uniform() : 0 };
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
  private readonly scale: number;
  private readonly lowest: number;
  private readonly highest: number;
  private readonly dither: Dither;
  private readonly filter: readonly number[];
  private readonly silentFrames: number;
  private readonly channels: readonly ChannelState[];
  /** The dither of a block in steps, and the numbers it is drawn from. */
  private readonly added = new Float64Array(BLOCK);
  private readonly drawn = new Float64Array(2 * BLOCK);
  /** Samples that had to be held at the ends of the scale. */
  clipped = 0;

  constructor({ depth, dither, sampleRate, seeds = [1, 2], digitalSilence = false }: DitherOptions) {
    this.scale = 2 ** (depth - 1);
    this.lowest = -this.scale;
    this.highest = this.scale - 1;
    this.dither = dither;
    this.filter = dither === 'noise-shaped' ? noiseShaper(sampleRate) : [];
    this.silentFrames = digitalSilence ? Math.round(SILENT_SECONDS * sampleRate) : Infinity;
    this.channels = seeds.map((seed) => ({
      ...newRandom(seed, dither),
      ...{ at: 0, silent: 0 },
      errors: new Float64Array(this.filter.length),
    }));
  }

  /** Integer samples of one channel (0 left, 1 right), full scale at ±2^(depth−1). Not-a-number becomes silence. */
  process(channel: 0 | 1, input: Float64Array, output: Int32Array): void {
    const state = this.channels[channel];
    for (let from = 0; from < input.length; from += BLOCK) {
      const to = Math.min(input.length, from + BLOCK);
      this.draw(state, to - from);
      this.round(state, input.subarray(from, to), output.subarray(from, to));
    }
  }

  private round(state: ChannelState, input: Float64Array, output: Int32Array): void {
    const { scale, lowest, highest, filter, silentFrames, added } = this;
    const { errors } = state;
    const taps = filter.length;
    for (let i = 0; i < input.length; i++) {
      const exact = input[i] * scale;
      state.silent = Math.abs(exact) < SILENT_STEPS ? state.silent + 1 : 0;
      let value = exact;
      for (let k = 0; k < taps; k++) value -= filter[k] * errors[(state.at + k) % taps];
      const rounded = Math.floor(value + added[i] + 0.5);
      if (rounded < lowest || rounded > highest) this.clipped++;
      const written = rounded >= lowest ? Math.min(rounded, highest) : rounded < lowest ? lowest : 0;
      output[i] = state.silent > silentFrames ? 0 : written;
      if (taps === 0) continue;
      const error = written - value;
      state.at = (state.at + taps - 1) % taps;
      errors[state.at] = error >= -MOST_ERROR ? Math.min(error, MOST_ERROR) : error < -MOST_ERROR ? -MOST_ERROR : 0;
    }
  }

  /** Draws the next dither of a channel, in steps. */
  private draw(state: ChannelState, count: number): void {
    const { added, drawn, dither } = this;
    if (dither === 'none') return;
    if (dither !== 'high-pass TPDF') {
      state.random.fillUniform(drawn, 2 * count);
      for (let i = 0; i < count; i++) added[i] = drawn[2 * i] - drawn[2 * i + 1];
      return;
    }
    state.random.fillUniform(drawn, count);
    let before = state.uniform;
    for (let i = 0; i < count; i++) {
      added[i] = drawn[i] - before;
      before = drawn[i];
    }
    state.uniform = before;
  }
}
