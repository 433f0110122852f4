import { mergeTips, TipMeter } from './tips';

const RATE = 10_000; // Six frames on each side.
const CEILING = 0.5;
const FRAMES = 4000;

/** Triangles of other heights and directions, at known places; the stage cuts at the ceiling and halves. */
const PLACES = [100, 611, 1024, 1500, 2999];
const HEIGHTS = [0.9, -0.8, 0.45, 0.7, -0.95];
const before = new Float64Array(FRAMES);
PLACES.forEach((place, k) => {
  for (let i = -5; i <= 5; i++) before[place + i] = HEIGHTS[k] * (1 - Math.abs(i) / 6);
});
const after = before.map((x) => Math.max(-CEILING, Math.min(CEILING, x)) / 2);

test.each([7, 128, 1000, FRAMES])('fed %d frames at a time, the tips are found with their tops, upward', (size) => {
  const meter = new TipMeter(RATE, CEILING);
  for (let at = 0; at < FRAMES; at += size) meter.add(before.subarray(at, at + size), after.subarray(at, at + size));
  const { count, longestFrames, highest } = meter.reading();
  expect(count).toBe(4);
  // 0.95·(1 − i/6) > 0.5 for i up to 2: five samples.
  expect(longestFrames).toBe(5);
  expect(highest.map((tip) => Number(tip.before[6].toFixed(3)))).toEqual([0.95, 0.9, 0.8, 0.7, 0.45]);
  for (const tip of highest) {
    expect(tip.before).toHaveLength(13);
    tip.before.forEach((x, i) => expect(tip.after[i]).toBeCloseTo(Math.min(CEILING, x) / 2, 6));
  }
});

test('only the highest are kept, and all that are over the ceiling are counted', () => {
  const meter = new TipMeter(RATE, CEILING);
  const many = Float64Array.from({ length: 40 * 50 }, (_, i) => (i % 50 === 25 ? 0.5 + i / 10_000 : 0));
  meter.add(many, many);
  const { count, highest } = meter.reading();
  expect([count, highest.length]).toEqual([40, 24]);
  expect(highest[0].before[6]).toBeCloseTo(0.5 + (39 * 50 + 25) / 10_000, 6);
  const both = mergeTips([meter.reading(), meter.reading()]);
  expect([both.count, both.highest.length, both.longestFrames]).toEqual([80, 24, 1]);
  expect(both.highest[1].before[6]).toBe(both.highest[0].before[6]);
});
