import {
  BOTTOM,
  frequencyAt,
  frequencyUnder,
  heldFrequency,
  heldGain,
  LEFT,
  RIGHT,
  shareOf,
  TOP,
} from './equalizer-axes';

test('frequencies stand evenly by octaves, and come back from where they stand', () => {
  expect(shareOf(20)).toBe(0);
  expect(shareOf(20000)).toBeCloseTo(1, 12);
  expect(shareOf(400) - shareOf(200)).toBeCloseTo(shareOf(8000) - shareOf(4000), 12);
  for (const f of [20, 97, 1000, 19_999]) expect(frequencyAt(shareOf(f))).toBeCloseTo(f, 6);
});

test('a point of the page becomes a frequency, held to what a band may have', () => {
  const width = 600 + LEFT + RIGHT;
  const box = { getBoundingClientRect: () => ({ left: 100, top: 0, width, height: 300 + TOP + BOTTOM }) } as Element;
  expect(frequencyUnder(box, 100 + LEFT)).toBe(20);
  expect(frequencyUnder(box, 100 + LEFT + 300)).toBe(632);
  expect(frequencyUnder(box, 0)).toBe(20);
  expect(frequencyUnder(box, 5000)).toBe(20000);
});

test('values are rounded to steps and held within their range', () => {
  expect([heldFrequency(3.2), heldFrequency(440.6), heldFrequency(1e6)]).toEqual([20, 441, 20000]);
  expect([heldGain(-40), heldGain(2.34), heldGain(40)]).toEqual([-18, 2.3, 18]);
});
