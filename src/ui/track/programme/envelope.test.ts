import { PICTURE_FRAMES } from '../../../engine/measure/measurement';
import { envelope } from './envelope';

const frames = PICTURE_FRAMES * 40;
const left = Float32Array.from({ length: frames }, (_, i) => (i === 5000 ? 0.9 : 0.1));
const right = Float32Array.from({ length: frames }, (_, i) => (i === 7000 ? -0.8 : -0.1));
/** As a measurement keeps it. */
const picture = Float32Array.from({ length: 80 }, (_, i) => {
  const from = Math.floor(i / 2) * PICTURE_FRAMES;
  const part = [...left.subarray(from, from + PICTURE_FRAMES), ...right.subarray(from, from + PICTURE_FRAMES)];
  return i % 2 === 0 ? Math.min(...part) : Math.max(...part);
});

test('the picture and the samples give the same envelope, and no peak is lost', () => {
  const view = { start: 0, end: frames };
  const coarse = envelope(view, 10, picture, left, right);
  const fine = envelope(view, 10, null, left, right);
  expect(coarse).toEqual(fine);
  expect(Math.max(...coarse[1])).toBeCloseTo(0.9, 6);
  expect(Math.min(...coarse[0])).toBeCloseTo(-0.8, 6);
});

test('zoomed in, each column shows its own samples, and nothing after the end', () => {
  const [low, high] = envelope({ start: 4995, end: 5005 }, 10, picture, left, right);
  expect([...high].map((x) => Number(x.toFixed(3)))).toEqual([0.1, 0.1, 0.1, 0.1, 0.1, 0.9, 0.1, 0.1, 0.1, 0.1]);
  expect(low[0]).toBeCloseTo(-0.1, 6);
  const [, after] = envelope({ start: frames, end: frames + 10 }, 10, null, left, right);
  expect([...after]).toEqual(new Array(10).fill(0));
});
