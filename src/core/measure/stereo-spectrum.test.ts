import { below, noise, sine } from '../../../tests/support/signals';
import { Kernels } from '../kernels/host';
import { StereoSpectrumMeter } from './stereo-spectrum';

const RATE = 44100;
const FRAMES = 8 * RATE;

function measure(left: Float64Array, right: Float64Array, rate = RATE) {
  const meter = new StereoSpectrumMeter(new Kernels(), rate);
  for (let at = 0; at < left.length; at += 1000) {
    const frames = Math.min(1000, left.length - at);
    meter.add(left.subarray(at, at + frames), right.subarray(at, at + frames), frames);
  }
  return meter.result();
}
const a = noise(FRAMES, 0.3, 1);
const b = noise(FRAMES, 0.3, 2);
const sum = (...parts: Float64Array[]) => parts[0].map((_, i) => parts.reduce((s, part) => s + part[i], 0));

test('correlation: +1 identical, −1 inverted, 0 for independent noise and for a shift of 90°', () => {
  expect(measure(a, a).correlation).toBeCloseTo(1, 6);
  expect(
    measure(
      a,
      a.map((x) => -x),
    ).correlation,
  ).toBeCloseTo(-1, 6);
  expect(Math.abs(measure(a, b).correlation)).toBeLessThan(0.01);
  expect(Math.abs(measure(sine(1000, -6, 8, RATE), sine(1000, -6, 8, RATE, 90)).correlation)).toBeLessThan(0.001);
});

test('the bass is told apart from what lies above it', () => {
  const bass = sine(60, -18, 8, RATE);
  const { correlation, bassCorrelation, bassDb } = measure(
    sum(a, bass),
    sum(
      a,
      bass.map((x) => -x),
    ),
  );
  expect(bassCorrelation).toBeLessThan(-0.9);
  expect(correlation).toBeGreaterThan(0);
  expect(bassDb).toBeCloseTo(-18, 0);
});

test('balance is the ratio of the channels’ powers', () => {
  expect(
    measure(
      a,
      a.map((x) => x / 2),
    ).balanceDb,
  ).toBeCloseTo(6.02, 2);
  expect(measure(a, new Float64Array(FRAMES)).balanceDb).toBe(Infinity);
});

test.each([10500, 16000, 19000])('a spectrum that ends at %i Hz in a cliff is found there', (cut) => {
  const { endHz } = measure(below(a, cut, RATE), below(b, cut, RATE));
  expect(Math.abs(endHz! - cut)).toBeLessThan(700);
});

test('nothing ends in noise, in a gentle slope, in a tone or in silence', () => {
  expect(measure(a, b).endHz).toBeNull();
  let smooth = 0;
  const dull = a.map((x) => (smooth += 0.1 * (x - smooth)));
  expect(measure(dull, dull).endHz).toBeNull();
  expect(measure(sine(12000, -6, 8, RATE), sine(12000, -6, 8, RATE)).endHz).toBeNull();
  expect(measure(new Float64Array(FRAMES), new Float64Array(FRAMES)).endHz).toBeNull();
});

test.each([37, -12])('a channel that is %i frames late is found to the frame', (delay) => {
  const late = (x: Float64Array, by: number) => x.map((_, i) => x[i - by] ?? 0);
  const [left, right] = delay > 0 ? [a, late(a, delay)] : [late(a, -delay), a];
  expect(measure(left, right).delayFrames).toBe(delay);
  expect(measure(a, sum(a, b)).delayFrames).toBeNull();
});
