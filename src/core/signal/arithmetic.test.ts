import { arithmetic } from './arithmetic';
import { amplitude, decibels, powerDecibels } from './decibels';
import { Fft, hann } from './fft';
import { Random } from './random';

test('the kernels’ functions agree with the machine’s to the last bits', () => {
  const { sin, cos, exp, log, pow } = arithmetic();
  for (let i = 1; i < 2000; i++) {
    const x = i / 317 - 3;
    expect(Math.abs(sin(x) - Math.sin(x))).toBeLessThan(4e-16);
    expect(Math.abs(cos(x) - Math.cos(x))).toBeLessThan(4e-16);
    expect(Math.abs(exp(x) / Math.exp(x) - 1)).toBeLessThan(4e-16);
    expect(Math.abs(log(i) - Math.log(i))).toBeLessThan(4e-15);
    expect(Math.abs(pow(10, x) / 10 ** x - 1)).toBeLessThan(2e-15);
  }
});

test('decibels and ratios undo each other; silence is −∞', () => {
  for (const db of [-120, -6.02, 0, 3, 24]) expect(decibels(amplitude(db))).toBeCloseTo(db, 12);
  expect([amplitude(-Infinity), decibels(0), powerDecibels(0)]).toEqual([0, -Infinity, -Infinity]);
  expect(powerDecibels(0.5)).toBeCloseTo(-3.0103, 4);
});

test('the transform is the sum that defines it', () => {
  const size = 64;
  const random = new Random(3);
  const real = Float64Array.from({ length: size }, () => random.triangular());
  const imaginary = Float64Array.from({ length: size }, () => random.triangular());
  const [re, im] = [real.slice(), imaginary.slice()];
  new Fft(size).transform(re, im);
  for (let k = 0; k < size; k++) {
    let sumRe = 0;
    let sumIm = 0;
    for (let n = 0; n < size; n++) {
      const angle = (-2 * Math.PI * k * n) / size;
      sumRe += real[n] * Math.cos(angle) - imaginary[n] * Math.sin(angle);
      sumIm += real[n] * Math.sin(angle) + imaginary[n] * Math.cos(angle);
    }
    expect(re[k]).toBeCloseTo(sumRe, 10);
    expect(im[k]).toBeCloseTo(sumIm, 10);
  }
  expect(hann(size).reduce((a, b) => a + b, 0) / size).toBeCloseTo(0.5, 12);
});

test('random numbers are uniform, triangular ones have the variance 1/6, and a seed repeats them', () => {
  const random = new Random(7);
  const counts = new Uint32Array(16);
  let square = 0;
  const total = 160_000;
  for (let i = 0; i < total; i++) {
    counts[Math.floor(random.uniform() * 16)]++;
    square += random.triangular() ** 2;
  }
  const chi = counts.reduce((sum, n) => sum + (n - total / 16) ** 2 / (total / 16), 0);
  // 15 degrees of freedom: beyond 37.7 in one of a thousand cases.
  expect(chi).toBeLessThan(37.7);
  expect(square / total).toBeCloseTo(1 / 6, 2);
  expect(new Random(5).integer()).toBe(new Random(5).integer());
  expect(new Random(5).integer()).not.toBe(new Random(6).integer());
});
