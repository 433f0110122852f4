import { noise, sine } from '../../../tests/support/signals';
import { Kernels } from '../kernels/host';
import { AverageSpectrum, averageSpectrumSize } from './average-spectrum';

const RATE = 44100;
const BLOCK = 1024;

function levelsOf(left: Float64Array, right: Float64Array): Float32Array {
  const kernels = new Kernels();
  const [l, r] = [kernels.allocate(BLOCK * 8), kernels.allocate(BLOCK * 8)];
  const spectrum = new AverageSpectrum(kernels, RATE);
  for (let at = 0; at + BLOCK <= left.length; at += BLOCK) {
    kernels.view64(l, BLOCK).set(left.subarray(at, at + BLOCK));
    kernels.view64(r, BLOCK).set(right.subarray(at, at + BLOCK));
    spectrum.add(l, r, BLOCK);
  }
  return spectrum.levels();
}

const size = averageSpectrumSize(RATE);
const onBin = (bin: number) => (bin * RATE) / size;

test('bins are at most 6 Hz wide at every rate', () => {
  for (const rate of [44100, 48000, 96000, 192000]) expect(rate / averageSpectrumSize(rate)).toBeLessThanOrEqual(6);
});

test('a tone reads its peak level where it stands; on one channel 3 dB less', () => {
  const tone = sine(onBin(700), -15, 4, RATE);
  const both = levelsOf(tone, tone);
  expect(both[700]).toBeCloseTo(-15, 2);
  expect(both[400]).toBeLessThan(-140);
  expect(levelsOf(tone, new Float64Array(tone.length))[700]).toBeCloseTo(-18.01, 2);
});

test('channels that cancel in mono are there all the same', () => {
  const tone = sine(onBin(700), -15, 4, RATE);
  expect(
    levelsOf(
      tone,
      tone.map((x) => -x),
    )[700],
  ).toBeCloseTo(-15, 2);
});

test('the average of white noise is level, and silence is nothing', () => {
  const levels = levelsOf(noise(30 * RATE, 0.5, 3), noise(30 * RATE, 0.5, 4));
  const mean = (from: number, to: number) =>
    10 * Math.log10(levels.subarray(from, to).reduce((sum, db) => sum + 10 ** (db / 10), 0) / (to - from));
  expect(mean(100, 1000) - mean(2000, 3000)).toBeCloseTo(0, 0);
  const quiet = levelsOf(new Float64Array(2 * RATE), new Float64Array(2 * RATE));
  expect(Math.max(...quiet)).toBeLessThan(-150);
});
