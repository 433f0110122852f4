import { noise, sine } from '../../../tests/support/signals';
import { DISTORTION_FRAMES, DistortionMeter } from './distortion';

const RATE = 44100;
const SECONDS = 1;
const { abs, max, min, sin, PI } = Math;

function reading(before: Float64Array, after: Float64Array) {
  const meter = new DistortionMeter(RATE);
  for (let at = 0; at + DISTORTION_FRAMES <= before.length; at += DISTORTION_FRAMES) meter.add(before, after, at, at);
  return meter.reading();
}

test('a gain is no distortion, nor is one that moves slowly', () => {
  const x = noise(SECONDS * RATE, 0.5);
  expect(
    reading(
      x,
      x.map((v) => 0.3 * v),
    ).totalDb,
  ).toBeLessThan(-200);
  // 3 dB within a second.
  const moving = x.map((v, i) => v * 10 ** ((-3 * (i / RATE)) / 20));
  expect(reading(x, moving).totalDb).toBeLessThan(-110);
});

test('the third harmonic is told at its level and in its band', () => {
  const x = sine(400, -12, SECONDS, RATE);
  const third = sine(1200, -52, SECONDS, RATE);
  const { totalDb, lowDb, bands, barest } = reading(
    x,
    x.map((v, i) => v + third[i]),
  );
  expect(totalDb).toBeCloseTo(-40, 1);
  expect(lowDb).toBeLessThan(-60);
  const band = bands.find(({ hz }) => abs(hz - 1259) < 2)!;
  expect(band.distortionDbfs).toBeCloseTo(-52, 1);
  expect(barest!.hz).toBeCloseTo(band.hz, 5);
  expect(barest!.db).toBeCloseTo(-52 + 78, 1);
});

test('the same clipping lies bare under a tone and is hidden by a dense programme', () => {
  const dense = noise(SECONDS * RATE, 0.6, 3).map((v, i) => v + 0.3 * sin(i / 9));
  const tone = sine(300, 0, SECONDS, RATE);
  const clip = (x: Float64Array, at: number) => x.map((v) => max(-at, min(at, v)));
  const bare = reading(tone, clip(tone, 0.9));
  const hidden = reading(dense, clip(dense, 0.8));
  expect(bare.barest!.db).toBeGreaterThan(0);
  expect(hidden.barest!.db).toBeLessThan(-12);
});

test('a gain that follows the waves of a bass is distortion of the low end', () => {
  const bass = sine(50, -6, SECONDS, RATE);
  const rippled = bass.map((v, i) => v * (1 - 0.05 * sin((2 * PI * 100 * i) / RATE)));
  // Sidebands of 0.025 each: −29 dB together.
  expect(reading(bass, rippled).lowDb).toBeGreaterThan(-30);
  expect(reading(bass, rippled).lowDb).toBeLessThan(-28);
});

test('silence has none', () => {
  const nothing = new Float64Array(DISTORTION_FRAMES);
  expect(reading(nothing, nothing)).toMatchObject({ totalDb: -Infinity, lowDb: -Infinity, barest: null });
});
