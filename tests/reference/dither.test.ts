// Error statistics of word-length reduction: Vanderkooy and Lipshitz; Wannamaker; values from memory.
import { Ditherer, type IntegerDepth } from '@/core/deliver/dither';
import { db, noise, sine } from '../support/signals';

const RATE = 48000;

function reduce(input: Float64Array, depth: IntegerDepth, dithered: boolean, seed = 1): Int32Array {
  const output = new Int32Array(input.length);
  new Ditherer(depth, dithered, [seed, seed + 1000]).process(0, input, output);
  return output;
}

/** Mean and variance of the error in LSB. */
function errors(input: Float64Array, output: Int32Array, depth: IntegerDepth) {
  const scale = 2 ** (depth - 1);
  const all = Float64Array.from(output, (x, i) => x - input[i] * scale);
  const mean = all.reduce((a, b) => a + b, 0) / all.length;
  return { mean, variance: all.reduce((sum, e) => sum + (e - mean) ** 2, 0) / all.length };
}

/** Signal to noise in dB of a sine at the end of the scale. */
function signalToNoise(depth: IntegerDepth, dithered: boolean): number {
  const scale = 2 ** (depth - 1);
  // A hair below full scale, so that the dither has room.
  const input = sine(997, 0, 20, RATE).map((x) => x * (1 - 2 / scale));
  const { variance } = errors(input, reduce(input, depth, dithered), depth);
  return 10 * Math.log10((scale * scale) / 2 / variance);
}

test.each([
  [16, false, 98.1],
  [16, true, 93.3],
  [24, true, 141.5],
] as const)('a full-scale sine at %i bits, dithered %p, stands %f dB above the noise', (depth, dithered, expected) => {
  expect(Math.abs(signalToNoise(depth, dithered) - expected)).toBeLessThan(0.1);
});

test('rounding alone makes an error of Δ²/12, triangular dither Δ²/4', () => {
  const input = noise(400_000, 0.5, 9);
  expect(errors(input, reduce(input, 16, false), 16).variance).toBeCloseTo(1 / 12, 3);
  expect(errors(input, reduce(input, 16, true), 16).variance).toBeCloseTo(1 / 4, 2);
});

test('with dither, mean and variance of the error do not depend on the signal', () => {
  const steps = [0, 0.1, 0.25, 0.5, 0.75, 0.9].map((part) => new Float64Array(200_000).fill((3 + part) / 32768));
  for (const input of [...steps, sine(997, -100, 5, RATE)]) {
    const { mean, variance } = errors(input, reduce(input, 16, true), 16);
    expect(Math.abs(mean)).toBeLessThan(0.01);
    expect(Math.abs(variance - 0.25)).toBeLessThan(0.01);
  }
});

test('without dither they do', () => {
  const input = new Float64Array(1000).fill(3.25 / 32768);
  expect(errors(input, reduce(input, 16, false), 16)).toEqual({ mean: -0.25, variance: 0 });
});

test('a sine of half a step below 16 bits survives dither and is lost without it', () => {
  const input = sine(997, -100, 5, RATE);
  expect(reduce(input, 16, false).every((x) => x === 0)).toBe(true);
  const output = reduce(input, 16, true);
  const correlation = output.reduce((sum, x, i) => sum + x * input[i], 0) / input.reduce((sum, x) => sum + x * x, 0);
  expect(Math.abs(db(correlation / 32768))).toBeLessThan(0.5);
});

test('the same seed gives the same bits, another seed others; the sides differ', () => {
  const input = noise(1000, 0.5);
  expect(reduce(input, 16, true, 5)).toEqual(reduce(input, 16, true, 5));
  expect(reduce(input, 16, true, 5)).not.toEqual(reduce(input, 16, true, 6));
  const ditherer = new Ditherer(16, true);
  const sides = [new Int32Array(1000), new Int32Array(1000)];
  ditherer.process(0, input, sides[0]);
  ditherer.process(1, input, sides[1]);
  expect(sides[0]).not.toEqual(sides[1]);
});

test('what lies on the grid comes back bit for bit without dither, and the ends of the scale are held', () => {
  const grid = Int32Array.from({ length: 1000 }, (_, i) => (i * 7919) % 8388607);
  expect(
    reduce(
      Float64Array.from(grid, (x) => x / 8388608),
      24,
      false,
    ),
  ).toEqual(grid);
  const ditherer = new Ditherer(24, false);
  const output = new Int32Array(3);
  ditherer.process(0, Float64Array.of(1.5, -1.5, NaN), output);
  expect([...output]).toEqual([8388607, -8388608, 0]);
  expect(ditherer.clipped).toBe(2);
});
