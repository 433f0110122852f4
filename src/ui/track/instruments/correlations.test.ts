import { noise, sine } from '../../../../tests/support/signals';
import { BandCorrelations } from './correlations';

const RATE = 48000;
const RING = 65536;
const correlations = (left: Float64Array, right: Float64Array) => {
  const mid = Float32Array.from({ length: RING }, (_, i) => (left[i] + right[i]) / 2);
  const side = Float32Array.from({ length: RING }, (_, i) => (left[i] - right[i]) / 2);
  const bands = new BandCorrelations();
  for (let end = 4096; end < RING; end += 1600) bands.update(mid, side, end, RATE);
  return bands.values();
};
const a = noise(RING, 0.3, 1);

test('the same, the inverse, and something else', () => {
  for (const value of correlations(a, a)) expect(value).toBeCloseTo(1, 6);
  for (const value of correlations(
    a,
    a.map((x) => -x),
  ))
    expect(value).toBeCloseTo(-1, 6);
  for (const value of correlations(a, noise(RING, 0.3, 2))) expect(Math.abs(value!)).toBeLessThan(0.4);
  expect(correlations(new Float64Array(RING), a)).toEqual([null, null, null, null, null]);
});

test('bass that falls apart is told from a top that does not', () => {
  const bass = sine(60, -12, 2, RATE).subarray(0, RING);
  const top = sine(9000, -12, 2, RATE).subarray(0, RING);
  const values = correlations(
    top.map((x, i) => x + bass[i]),
    top.map((x, i) => x - bass[i]),
  );
  expect(values[0]).toBeCloseTo(-1, 2);
  expect(values[4]).toBeCloseTo(1, 2);
});
