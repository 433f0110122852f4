import { aligned } from '../../../../tests/support/core';
import { both, db, difference, noise, sine } from '../../../../tests/support/signals';

// Taken out once: looking Math up in a test's sandbox costs many times what the function does.
const { PI, cos, hypot, log10, sin } = Math;
const RATE = 44100;
const FRAMES = 3 * RATE;
const deEsser = (settings: object) => [{ kind: 'deEsser', settings }];

/**
 * A voice as far as a de-esser is concerned: a vowel of harmonics of 180 Hz that falls by 12 dB per octave, and from second
 * 1 to 1.2 and 2 to 2.2 a hiss around 7 kHz in its place.
 */
function voice(gainDb = 0): Float64Array {
  const gain = 10 ** (gainDb / 20);
  const hiss = noise(FRAMES, 0.5, 5);
  let low = 0;
  let band = 0;
  const f = 2 * sin((PI * 7000) / RATE);
  return Float64Array.from({ length: FRAMES }, (_, i) => {
    const second = i / RATE;
    low += f * band;
    band += f * (hiss[i] - low - 0.7 * band);
    if (isHiss(second)) return gain * 0.3 * band;
    let vowel = 0;
    for (let h = 1; h <= 24; h++) vowel += sin((2 * PI * 180 * h * i) / RATE) / h ** 2;
    return gain * 0.2 * vowel;
  });
}
const isHiss = (second: number) => (second >= 1 && second < 1.2) || (second >= 2 && second < 2.2);
const energy = (x: Float64Array, from: number, to: number) =>
  10 * log10(x.subarray(from * RATE, to * RATE).reduce((sum, v) => sum + v * v, 0));
const SETTINGS = { frequencyHz: 7000, thresholdDb: -12, rangeDb: 6, q: 0.7 };

test.each(['split', 'wide'])('sibilants fall, vowels stay, whatever the level of the whole (%s)', (reduction) => {
  const falls = [0, -20].map((gainDb) => {
    const before = voice(gainDb);
    const { left } = aligned(both(before), deEsser({ ...SETTINGS, reduction }), RATE);
    const vowel = energy(left, 0.3, 0.95) - energy(before, 0.3, 0.95);
    expect(vowel).toBeCloseTo(0, 1);
    return energy(left, 1.03, 1.2) - energy(before, 1.03, 1.2);
  });
  // Wide takes the whole range, a bell of the same depth a part of a hiss that is wider than it.
  expect(falls[0]).toBeLessThan(reduction === 'wide' ? -5.5 : -3);
  expect(falls[0]).toBeGreaterThan(-6.1);
  expect(falls[1]).toBeCloseTo(falls[0], 1);
});

test('split leaves the lows under a sibilant alone, wide takes them too', () => {
  const low = sine(200, -30, 3, RATE);
  const signal = voice().map((x, i) => x + low[i]);
  const at200 = (x: Float64Array) => {
    const part = x.subarray(1.05 * RATE, 1.15 * RATE);
    let re = 0;
    let im = 0;
    part.forEach((v, i) => {
      re += v * cos((2 * PI * 200 * i) / RATE);
      im += v * sin((2 * PI * 200 * i) / RATE);
    });
    return db(hypot(re, im));
  };
  const change = (reduction: string) =>
    at200(aligned(both(signal), deEsser({ ...SETTINGS, reduction }), RATE).left) - at200(signal);
  expect(change('split')).toBeCloseTo(0, 1);
  expect(change('wide')).toBeLessThan(-5);
});

test('works on mid or side alone', () => {
  const hiss = voice();
  const vowel = sine(180, -20, 3, RATE);
  const signal = { left: vowel.map((x, i) => x + hiss[i]), right: vowel.map((x, i) => x - hiss[i]) };
  const { left, right } = aligned(signal, deEsser({ ...SETTINGS, part: 'mid' }), RATE);
  expect(difference(left, signal.left)).toBeLessThan(1e-9);
  expect(difference(right, signal.right)).toBeLessThan(1e-9);
  const side = aligned(signal, deEsser({ ...SETTINGS, part: 'side' }), RATE);
  expect(
    difference(
      side.left.map((x, i) => x + side.right[i]),
      vowel.map((x) => 2 * x),
    ),
  ).toBeLessThan(1e-9);
  expect(energy(side.left, 1.03, 1.2)).toBeLessThan(energy(signal.left, 1.03, 1.2) - 2);
});

test('what lies above a corner is found too', () => {
  const before = both(voice());
  const { left } = aligned(before, deEsser({ ...SETTINGS, detection: 'above', frequencyHz: 4500 }), RATE);
  expect(energy(left, 1.03, 1.2) - energy(before.left, 1.03, 1.2)).toBeLessThan(-4);
  expect(energy(left, 0.3, 0.95) - energy(before.left, 0.3, 0.95)).toBeCloseTo(0, 1);
});
