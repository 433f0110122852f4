// ITU-R BS.1770-4: coefficients of the K-weighting filter at 48 kHz and the 997 Hz value, from memory of the publication.
import { ANNEX2_PHASES } from '@/core/kernels/interpolator';
import { biquadMagnitude } from '@/core/signal/biquad';
import { kWeighting } from '@/core/signal/k-weighting';
import { loudnessOf, truePeakOf } from '../support/core';
import { annex2Taps, annex2TruePeak } from '../support/true-peak';
import { both, db, noise, silence, sine } from '../support/signals';

test('K-weighting at 48 kHz has the published coefficients', () => {
  const { shelf, highPass } = kWeighting(48000);
  const close = (value: number, published: number) => expect(value).toBeCloseTo(published, 9);
  close(shelf.b0, 1.53512485958697);
  close(shelf.b1, -2.69169618940638);
  close(shelf.b2, 1.19839281085285);
  close(shelf.a1, -1.69065929318241);
  close(shelf.a2, 0.73248077421585);
  close(highPass.a1, -1.99004745483398);
  close(highPass.a2, 0.99007225036621);
  expect([highPass.b0, highPass.b1, highPass.b2]).toEqual([1, -2, 1]);
});

test.each([44100, 88200, 96000, 192000])('K-weighting at %i Hz has the response of the one at 48 kHz', (rate) => {
  const gain = (sampleRate: number, f: number) => {
    const { shelf, highPass } = kWeighting(sampleRate);
    const radians = (2 * Math.PI * f) / sampleRate;
    return db(biquadMagnitude(shelf, radians) * biquadMagnitude(highPass, radians));
  };
  for (const f of [30, 60, 100, 400, 1000, 2000, 5000, 10000]) {
    expect(Math.abs(gain(rate, f) - gain(48000, f))).toBeLessThan(f > 5000 ? 0.15 : 0.05);
  }
});

test.each([44100, 48000, 96000])('a full-scale sine of 997 Hz on one side reads −3.01 LKFS at %i Hz', (rate) => {
  const left = sine(997, 0, 10, rate);
  expect(loudnessOf({ left, right: silence(10, rate) }, rate).integrated).toBeCloseTo(-3.01, 1);
  expect(Math.abs(loudnessOf({ left, right: silence(10, rate) }, rate).integrated + 3.01)).toBeLessThan(0.02);
});

test('the Annex 2 interpolator passes 0 Hz near unity; its inner phases are 0.24 dB low, as published', () => {
  const [outer, inner] = ANNEX2_PHASES.map((phase) => db(phase.reduce((a, b) => a + b, 0)));
  expect(outer).toBeCloseTo(0.01, 2);
  expect(inner).toBeCloseTo(-0.24, 2);
});

// The filter has no other definition than its table, so what it does is held instead of the table itself.
test('as one filter at 4x, the Annex 2 taps are flat to 20 kHz, symmetrical, and take images down by 39 dB', () => {
  const taps = annex2Taps();
  /** Gain in dB at a frequency at 48 kHz. */
  const gain = (hz: number) => {
    const radians = (2 * Math.PI * hz) / (4 * 48000);
    const part = (f: (x: number) => number) => taps.reduce((sum, tap, n) => sum + tap * f(radians * n), 0);
    return db(Math.hypot(part(Math.cos), part(Math.sin)) / 4);
  };
  expect(taps).toEqual([...taps].reverse());
  for (let hz = 0; hz <= 20000; hz += 50) expect(Math.abs(gain(hz))).toBeLessThan(0.12);
  for (let hz = 28000; hz < 96000; hz += 50) expect(gain(hz)).toBeLessThan(-39);
  expect(gain(24000)).toBeCloseTo(-6.2, 1);
});

test('by Annex 2, a tone at a quarter of the rate and 45° reads 3 dB over its samples', () => {
  const tone = sine(12000, -3, 0.05, 48000, 45);
  expect(db(Math.max(...tone.map(Math.abs)))).toBeCloseTo(-6.01, 1);
  expect(Math.abs(db(annex2TruePeak(tone)) + 3)).toBeLessThan(0.2);
});

test('the true-peak meter agrees with band-limited interpolation at 32 points a sample within 0.1 dB', () => {
  const rate = 48000;
  // Noise below 20 kHz, made of sines, so that its value between the samples is known exactly.
  const random = noise(400, 1, 7);
  const parts = Array.from({ length: 200 }, (_, k) => ({
    f: 100 + 99.3 * k,
    a: random[k],
    p: Math.PI * random[k + 200],
  }));
  const at = (t: number) =>
    parts.reduce((sum, { f, a, p }) => sum + a * Math.sin((2 * Math.PI * f * t) / rate + p), 0) / 60;
  const frames = 2048;
  const fade = (t: number) => Math.min(1, t / 256, (frames - t) / 256);
  const signal = both(Float64Array.from({ length: frames }, (_, i) => fade(i) * at(i)));
  let peak = 0;
  for (let t = 0; t < frames; t += 1 / 32) peak = Math.max(peak, Math.abs(fade(t) * at(t)));
  expect(Math.abs(truePeakOf(signal) - db(peak))).toBeLessThan(0.1);
});

test.each([
  [5000, 0.02],
  [10000, 0.05],
  [18000, 0.1],
  [20000, 0.25],
])('the true peak of a tone of %i Hz at 44.1 kHz reads within %f dB', (frequency, tolerance) => {
  const rate = 44100;
  const tone = sine(frequency + 0.37, -3, 0.5, rate).map(
    (x, i, all) => x * Math.min(1, i / 2000, (all.length - i) / 2000),
  );
  expect(Math.abs(truePeakOf(both(tone)) + 3)).toBeLessThan(tolerance);
});
