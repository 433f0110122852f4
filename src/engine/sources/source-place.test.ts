import { placeOf, SAME_PLACE, seamGain } from './source-place';

const LOOP = { start: 1000, end: 1400 };

test('a source without a loop stands where its offset says, also outside of itself', () => {
  expect(placeOf(50, SAME_PLACE)).toBe(50);
  expect(placeOf(50, { offset: -80, loop: null })).toBe(-30);
});

test('a source with a loop is always inside it, wherever the track stands', () => {
  for (const offset of [-90_000, 0, 333, 90_000])
    for (let frame = 0; frame < 5000; frame += 7) {
      const at = placeOf(frame, { offset, loop: LOOP });
      expect(at).toBeGreaterThanOrEqual(LOOP.start);
      expect(at).toBeLessThan(LOOP.end);
      // It runs on by one frame a frame, but for the seam.
      const next = placeOf(frame + 1, { offset, loop: LOOP });
      expect(next).toBe(at + 1 === LOOP.end ? LOOP.start : at + 1);
    }
});

test('the seam of a loop dips to silence, and nothing else does', () => {
  const place = { offset: 0, loop: LOOP };
  expect([1000, 1005, 1200, 1395].map((at) => seamGain(at, place, 10))).toEqual([0, 0.5, 1, 0.5]);
  expect(seamGain(0, SAME_PLACE, 10)).toBe(1);
});
