import { panned, zoomed, type View } from './view';

const FRAMES = 100_000;
const WHOLE: View = { start: 0, end: FRAMES };

test('zooming keeps the frame under the hand where it is, down to 64 frames and back to the whole', () => {
  let view: View | null = WHOLE;
  for (let i = 0; i < 60; i++) view = zoomed(view!, FRAMES, 25_000, -1);
  expect(view!.end - view!.start).toBe(64);
  expect(25_000 - view!.start).toBeCloseTo(16, 6);
  for (let i = 0; i < 60 && view; i++) view = zoomed(view, FRAMES, 25_000, 1);
  expect(view).toBeNull();
});

test('a view is moved no further than the track goes', () => {
  const view = { start: 10_000, end: 20_000 };
  expect(panned(view, FRAMES, 0.5)).toEqual({ start: 15_000, end: 25_000 });
  expect(panned(view, FRAMES, -5)).toEqual({ start: 0, end: 10_000 });
  expect(panned(view, FRAMES, 50)).toEqual({ start: 90_000, end: FRAMES });
});
