// Error statistics of word-length reduction: Vanderkooy and Lipshitz; Wannamaker; values from memory.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { Ditherer, type Dither } from '@/core/deliver/dither';
import type { WordLength } from '@/core/deliver/format';
import { noiseShaper, shapedPower } from '@/core/deliver/noise-shaping';
import { Fft } from '@/core/signal/fft';
import { db, noise, sine } from '../support/signals';

const RATE = 48000;

const ditherer = (depth: WordLength, dither: Dither, seed = 1) =>
  new Ditherer({ depth, dither, sampleRate: RATE, seeds: [seed, seed + 1000] });

function reduce(input: Float64Array, depth: WordLength, dithered: boolean | Dither, seed = 1): Int32Array {
  const output = new Int32Array(input.length);
  const dither = typeof dithered === 'string' ? dithered : dithered ? 'TPDF' : 'none';
  ditherer(depth, dither, seed).process(0, input, output);
  return output;
}

/** Mean and variance of the error in LSB. */
function errors(input: Float64Array, output: Int32Array, depth: WordLength) {
  const scale = 2 ** (depth - 1);
  const all = Float64Array.from(output, (x, i) => x - input[i] * scale);
  const mean = all.reduce((a, b) => a + b, 0) / all.length;
  return { mean, variance: all.reduce((sum, e) => sum + (e - mean) ** 2, 0) / all.length };
}

/** Signal to noise in dB of a sine at the end of the scale. */
function signalToNoise(depth: WordLength, dithered: boolean): number {
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
  const both = ditherer(16, 'TPDF');
  const sides = [new Int32Array(1000), new Int32Array(1000)];
  both.process(0, input, sides[0]);
  both.process(1, input, sides[1]);
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
  const held = ditherer(24, 'none');
  const output = new Int32Array(3);
  held.process(0, Float64Array.of(1.5, -1.5, NaN), output);
  expect([...output]).toEqual([8388607, -8388608, 0]);
  expect(held.clipped).toBe(2);
});

/** Power of the error in dB of a step², in bands of a share of half the rate. */
function errorSpectrum(input: Float64Array, output: Int32Array, depth: WordLength): Float64Array {
  const size = 1024;
  const bins = new Float64Array(size / 2);
  const windows = Math.floor(input.length / size);
  const scale = 2 ** (depth - 1);
  for (let w = 0; w < windows; w++) {
    const real = new Float64Array(size);
    const imaginary = new Float64Array(size);
    for (let i = 0; i < size; i++) {
      const at = w * size + i;
      real[i] = (output[at] - input[at] * scale) * (0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size));
    }
    new Fft(size).transform(real, imaginary);
    // The power of a Hann window is 3/8.
    for (let k = 0; k < size / 2; k++) bins[k] += (real[k] ** 2 + imaginary[k] ** 2) / (size * 0.375 * windows);
  }
  return bins;
}

test('the error of high-pass dither rises by 6 dB an octave to that of rounding, with the variance of TPDF', () => {
  const input = noise(200_000, 0.3, 4);
  const output = reduce(input, 16, 'high-pass TPDF');
  expect(errors(input, output, 16).variance).toBeCloseTo(1 / 4, 2);
  const bins = errorSpectrum(input, output, 16);
  // Rounding: 1/12, white; dither: 2 (1 − cos ω) / 12.
  bins.forEach((power, k) => {
    if (k < 4) return;
    const expected = 1 / 12 + (2 * (1 - Math.cos((Math.PI * k) / bins.length))) / 12;
    expect(Math.abs(db(Math.sqrt(power / expected)))).toBeLessThan(1.2);
  });
});

test('the error of noise-shaped dither has the spectrum of its filter, whatever the signal', () => {
  const coefficients = noiseShaper(RATE);
  for (const input of [noise(200_000, 0.3, 4), new Float64Array(200_000).fill(3.25 / 32768)]) {
    const bins = errorSpectrum(input, reduce(input, 16, 'noise-shaped'), 16);
    bins.forEach((power, k) => {
      if (k < 4) return;
      const expected = shapedPower(coefficients, k / bins.length / 2) / 4;
      expect(Math.abs(db(Math.sqrt(power / expected)))).toBeLessThan(1.5);
    });
  }
});

test('sox shapes its noise at 44.1 kHz with the same filter', () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'copper-dither-'));
  const rate = 44100;
  // A float file of a steady level between two steps: nothing but dither is heard.
  const input = new Float64Array(200_000).fill(3.25 / 32768);
  const file = path.join(folder, 'in.f64');
  writeFileSync(file, Buffer.from(input.buffer));
  const raw = ['-t', 'f64', '-r', String(rate), '-c', '1'];
  const args = [...raw, file, '-t', 's16', path.join(folder, 'out.s16'), 'dither', '-f', 'f-weighted'];
  const { status, stderr } = spawnSync('sox', ['-D', ...args]);
  expect([status, stderr.toString()]).toEqual([0, expect.any(String)]);
  const bytes = Uint8Array.from(readFileSync(path.join(folder, 'out.s16')));
  rmSync(folder, { recursive: true });
  const theirs = errorSpectrum(input, Int32Array.from(new Int16Array(bytes.buffer)), 16);
  const own = new Int32Array(input.length);
  new Ditherer({ depth: 16, dither: 'noise-shaped', sampleRate: rate }).process(0, input, own);
  const ours = errorSpectrum(input, own, 16);
  ours.forEach((power, k) => {
    if (k > 3 && k < 500) expect(Math.abs(db(Math.sqrt(power / theirs[k])))).toBeLessThan(2.5);
  });
});

test('digital silence begins a tenth of a second after the signal ends, and only where it is asked for', () => {
  const input = new Float64Array(RATE);
  input.set(sine(997, -40, 0.5, RATE));
  const output = new Int32Array(input.length);
  new Ditherer({ depth: 16, dither: 'TPDF', sampleRate: RATE, digitalSilence: true }).process(0, input, output);
  const from = 0.6 * RATE;
  expect(output.subarray(0, from).some((x, i) => i > 0.55 * RATE && x !== 0)).toBe(true);
  expect(output.subarray(from + 2).every((x) => x === 0)).toBe(true);
  expect(
    reduce(input, 16, true)
      .subarray(from + 2)
      .some((x) => x !== 0),
  ).toBe(true);
});
