import { Random } from '../signal/random';

/** Word lengths a file can have; 32 is float and is not dithered. */
export type IntegerDepth = 16 | 24;

/**
 * Rounds to a word length with triangular (TPDF) dither of 2 LSB peak to peak, so that the error's mean and variance do
 * not depend on the signal (S. Lipshitz, R. Wannamaker, J. Vanderkooy, "Quantization and Dither", JAES 1992; from
 * memory). The dither is seeded, for each channel by itself: the same signal and seeds give the same bits. Files that may
 * meet in one signal, as generations of a master do, need seeds of their own, or their errors add up in step.
 */
export class Ditherer {
  private readonly scale: number;
  private readonly lowest: number;
  private readonly highest: number;
  private readonly randoms: [Random, Random];
  /** Samples that had to be held at the ends of the scale. */
  clipped = 0;

  /** With `dithered` false the samples are rounded only: right for what already lies on the grid. */
  constructor(
    depth: IntegerDepth,
    private readonly dithered: boolean,
    seeds: readonly [left: number, right: number] = [1, 2],
  ) {
    this.scale = 2 ** (depth - 1);
    this.lowest = -this.scale;
    this.highest = this.scale - 1;
    this.randoms = [new Random(seeds[0]), new Random(seeds[1])];
  }

  /** Integer samples of one channel (0 left, 1 right), full scale at ±2^(depth−1). Not-a-number becomes silence. */
  process(channel: 0 | 1, input: Float64Array, output: Int32Array): void {
    const random = this.randoms[channel];
    for (let i = 0; i < input.length; i++) {
      const value = input[i] * this.scale + (this.dithered ? random.triangular() : 0);
      const rounded = Math.floor(value + 0.5);
      if (rounded < this.lowest || rounded > this.highest) this.clipped++;
      output[i] = rounded >= this.lowest ? Math.min(rounded, this.highest) : rounded < this.lowest ? this.lowest : 0;
    }
  }
}
