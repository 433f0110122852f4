import {
  edgesSchema,
  FADE_SHAPES,
  EdgeGain,
  fadeGain,
  firstFrame,
  framesWithin,
  placeInMix,
  spanOf,
  WHOLE_MIX,
} from './edges';

const RATE = 48000;

test('the whole mix is left as it is, to the bit', () => {
  const gain = new EdgeGain(WHOLE_MIX, RATE, 100);
  const left = Float64Array.from({ length: 100 }, (_, i) => i - 50);
  const right = left.slice();
  gain.apply(0, left, right, 100);
  expect(left).toEqual(Float64Array.from({ length: 100 }, (_, i) => i - 50));
  expect(right).toEqual(left);
});

test.each([44100, 48000, 96000, 192000])('edges lie on frames at %d Hz', (sampleRate) => {
  for (const frame of [0, 1, 7919, 100_003, 5_000_001]) {
    const edges = edgesSchema.parse({ startSeconds: frame / sampleRate, endSeconds: (frame + 99_991) / sampleRate });
    expect(spanOf(edges, sampleRate, Infinity)).toEqual({ start: frame, end: frame + 99_991 });
  }
});

test('edges after the end of a shorter mix leave nothing of it, and never a negative length', () => {
  const edges = edgesSchema.parse({ startSeconds: 2, endSeconds: 4 });
  expect(spanOf(edges, RATE, RATE)).toEqual({ start: RATE, end: RATE });
  expect(framesWithin(edges, RATE, RATE)).toBe(0);
});

test.each(FADE_SHAPES)('a fade “%s” rises from 0 to 1 without a step back', (shape) => {
  expect(fadeGain(shape, 0)).toBe(0);
  expect(fadeGain(shape, 1)).toBe(1);
  for (let i = 1; i <= 1000; i++) expect(fadeGain(shape, i / 1000)).toBeGreaterThan(fadeGain(shape, (i - 1) / 1000));
});

test('two fades of equal power keep the power between them, two S-curves and two lines the amplitude', () => {
  for (let i = 0; i <= 1000; i++) {
    const [up, down] = [i / 1000, 1 - i / 1000];
    expect(fadeGain('equalPower', up) ** 2 + fadeGain('equalPower', down) ** 2).toBeCloseTo(1, 12);
    expect(fadeGain('sCurve', up) + fadeGain('sCurve', down)).toBeCloseTo(1, 12);
    expect(fadeGain('linear', up) + fadeGain('linear', down)).toBeCloseTo(1, 12);
  }
});

test('an exponential fade moves by nearly the same dB each step', () => {
  const db = (share: number) => 20 * Math.log10(fadeGain('exponential', share));
  expect(db(0.9) - db(0.8)).toBeCloseTo(6, 1);
  expect(db(0.8) - db(0.7)).toBeCloseTo(6, 1);
});

test.each([1, 128, 1000, 4096])('in blocks of %d frames the gain is that of each frame', (block) => {
  const edges = edgesSchema.parse({
    startSeconds: 1000 / RATE,
    endSeconds: 9000 / RATE,
    fadeIn: { seconds: 3000 / RATE, shape: 'linear' },
    fadeOut: { seconds: 4000 / RATE, shape: 'exponential' },
  });
  const gain = new EdgeGain(edges, RATE, 20_000);
  const seen: number[] = [];
  for (let at = -block; at < 12_000; at += block) {
    const left = new Float64Array(block).fill(1);
    const right = new Float64Array(block).fill(-1);
    gain.apply(at, left, right, block);
    expect(right).toEqual(left.map((x) => (x === 0 ? 0 : -x)));
    seen.push(...left);
  }
  const at = (frame: number) => seen[frame + block];
  expect([at(-1), at(999), at(1000), at(9000)]).toEqual([0, 0, 0, 0]);
  expect(at(1001)).toBeCloseTo(1 / 3000, 15);
  expect([at(4000), at(4500), at(5000)]).toEqual([1, 1, 1]);
  expect(at(2500)).toBe(0.5);
  expect(at(8999)).toBeCloseTo(fadeGain('exponential', 1 / 4000), 15);
  expect(seen.every((x, i) => x === gain.at(i - block))).toBe(true);
});

test('what is cut off is silent even where the mix has NaN', () => {
  const gain = new EdgeGain(edgesSchema.parse({ startSeconds: 2 / RATE }), RATE, RATE);
  const left = Float64Array.of(NaN, Infinity, 0.5);
  gain.apply(0, left, left.slice(), 3);
  expect(left).toEqual(Float64Array.of(0, 0, 0.5));
});

test('a finished file is placed back in its mix by what was cut off and what was added', () => {
  const edges = edgesSchema.parse({
    startSeconds: 3,
    endSeconds: 5,
    silenceBeforeSeconds: 0.5,
    silenceAfterSeconds: 2,
  });
  expect(framesWithin(edges, RATE, 10 * RATE)).toBe(4.5 * RATE);
  expect(firstFrame(edges, RATE)).toBe(2.5 * RATE);
  expect(placeInMix(edges, { frames: 4.5 * RATE, sampleRate: RATE })).toEqual({
    lateFrames: -2.5 * RATE,
    frames: 7 * RATE,
  });
  expect(placeInMix(undefined, { frames: 9, sampleRate: RATE })).toEqual({ lateFrames: 0, frames: 9 });
});

test.each([
  [{ startSeconds: 3, endSeconds: 3.05 }, 'A track ends at least 0.1 s after it starts.'],
  [{ startSeconds: -1 }, 'Too small'],
  [{ fadeIn: { seconds: 61 } }, 'Too big'],
  [{ silenceAfterSeconds: NaN }, 'Invalid input'],
  [{ fadeOut: { seconds: 1, shape: 'constructor' } }, 'Invalid option'],
])('%j is refused', (edges, reason) => {
  expect(edgesSchema.safeParse(edges).error?.issues[0].message).toContain(reason);
});
