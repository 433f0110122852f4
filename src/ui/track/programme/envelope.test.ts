import { PICTURE_FRAMES } from '../../../engine/measure/measurement';
import { envelope } from './envelope';

const frames = PICTURE_FRAMES * 40;
const left = Float32Array.from({ length: frames }, (_, i) => (i === 5000 ? 0.9 : 0.1));
const right = Float32Array.from({ length: frames }, (_, i) => (i === 7000 ? -0.8 : -0.1));
const samples = { left, right };
/** As a measurement keeps it. */
const picture = Float32Array.from({ length: 80 }, (_, i) => {
  const from = Math.floor(i / 2) * PICTURE_FRAMES;
  const part = [...left.subarray(from, from + PICTURE_FRAMES), ...right.subarray(from, from + PICTURE_FRAMES)];
  return i % 2 === 0 ? Math.min(...part) : Math.max(...part);
});
const reading = { picture } as never;

test('the picture and the samples give the same envelope, and no peak is lost', () => {
  const view = { start: 0, end: frames };
  const coarse = envelope(view, 10, { reading, samples })!;
  const fine = envelope(view, 10, { reading: null, samples })!;
  expect(coarse).toEqual(fine);
  expect(Math.max(...coarse[1])).toBeCloseTo(0.9, 6);
  expect(Math.min(...coarse[0])).toBeCloseTo(-0.8, 6);
});

test('zoomed in, each column shows its own samples, and nothing after the end', () => {
  const [low, high] = envelope({ start: 4995, end: 5005 }, 10, { reading, samples })!;
  expect([...high].map((x) => Number(x.toFixed(3)))).toEqual([0.1, 0.1, 0.1, 0.1, 0.1, 0.9, 0.1, 0.1, 0.1, 0.1]);
  expect(low[0]).toBeCloseTo(-0.1, 6);
  const [, after] = envelope({ start: frames, end: frames + 10 }, 10, { reading: null, samples })!;
  expect([...after]).toEqual(new Array(10).fill(0));
});

test('while the samples are not there the picture stands in for them, and nothing is made up', () => {
  const [, high] = envelope({ start: 4995, end: 5005 }, 10, { reading, samples: null })!;
  expect(high[0]).toBeCloseTo(0.9, 6);
  expect(envelope({ start: 0, end: frames }, 10, { reading: null, samples: null })).toBeNull();
});
