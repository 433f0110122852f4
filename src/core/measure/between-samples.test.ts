import { noise, sine } from '../../../tests/support/signals';
import { fineTruePeak } from '../../../tests/support/true-peak';
import { waveBetween } from './between-samples';

const RATE = 48000;

test('it goes through every sample', () => {
  const samples = noise(400, 0.5);
  const wave = waveBetween(samples, { start: 100, end: 200 }, 8);
  expect(wave).toHaveLength(801);
  for (let i = 0; i <= 100; i++) expect(wave[8 * i]).toBeCloseTo(samples[100 + i], 6);
});

test.each([100, 997, 5000, 11025, 15000, 19000])('between the samples of a sine of %d Hz lies that sine', (hz) => {
  const samples = sine(hz, 0, 0.02, RATE);
  const wave = waveBetween(samples, { start: 300, end: 500 }, 16);
  wave.forEach((value, i) => {
    const exact = Math.sin((2 * Math.PI * hz * (300 + i / 16)) / RATE);
    expect(Math.abs(value - exact)).toBeLessThan(0.004);
  });
});

test('a sine of a quarter of the rate at 45° hides 3.01 dB, which are seen', () => {
  const samples = Float64Array.from({ length: 400 }, (_, n) => Math.sin((Math.PI / 2) * n + Math.PI / 4));
  const wave = waveBetween(samples, { start: 150, end: 250 }, 16);
  expect(20 * Math.log10(Math.max(...samples))).toBeCloseTo(-3.01, 2);
  expect(20 * Math.log10(Math.max(...wave))).toBeCloseTo(0, 2);
});

test('its highest point is that of a finer interpolation', () => {
  // The finer one stops 128 samples before the end.
  const samples = new Float64Array(500);
  samples.set(noise(200, 0.9), 130);
  const fine = fineTruePeak(samples);
  const wave = waveBetween(samples, { start: 0, end: 499 }, 32);
  expect(Math.max(...wave.map(Math.abs)) / fine).toBeGreaterThan(0.98);
  expect(Math.max(...wave.map(Math.abs)) / fine).toBeLessThan(1.02);
});

test('outside the samples is silence', () => {
  const wave = waveBetween(new Float32Array(10).fill(0.5), { start: 200, end: 210 }, 4);
  expect([...wave].every((value) => value === 0)).toBe(true);
});
