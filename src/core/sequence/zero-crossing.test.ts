import { zeroCrossingNear } from './zero-crossing';

/** A tone of 100 frames a period: it crosses zero every 50. */
const tone = Float32Array.from({ length: 1000 }, (_, i) => Math.fround(Math.sin((2 * Math.PI * (i + 0.5)) / 100)));

test.each([
  [337, 350],
  [361, 350],
  [350, 350],
  [0, 50],
  [999, 950],
])('the crossing nearest to frame %d is %d', (frame, nearest) => {
  expect(zeroCrossingNear(tone, tone, frame, 100)).toBe(nearest);
});

test('where none is near, the frame stays', () => {
  expect(zeroCrossingNear(tone, tone, 325, 20)).toBe(325);
  expect(zeroCrossingNear(new Float32Array(10).fill(0.5), new Float32Array(10).fill(0.5), 5, 100)).toBe(5);
});

test('it is the sum of both channels that crosses', () => {
  const left = Float32Array.of(0.5, 0.5, -0.5, -0.5);
  const right = Float32Array.of(0.1, 0.1, 0.1, -0.9);
  expect(zeroCrossingNear(left, right, 0, 3)).toBe(2);
  expect(zeroCrossingNear(left, Float32Array.of(1, 1, 1, 1), 0, 3)).toBe(0);
});
