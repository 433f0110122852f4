import { noise, sine } from '../../../tests/support/signals';
import { BalanceMeter, balanceDifference, THIRD_OCTAVES_HZ, type BalanceBand } from './balance';

const measured = (rate: number, left: Float64Array, right = left) => {
  const meter = new BalanceMeter(rate);
  for (let at = 0; at < left.length; at += 1000) meter.add(left.subarray(at, at + 1000), right.subarray(at, at + 1000));
  return meter.result();
};
const at = (bands: BalanceBand[], hz: number) =>
  bands[THIRD_OCTAVES_HZ.findIndex((centre) => Math.abs(centre / hz - 1) < 0.05)];

test.each([44100, 48000, 96000])('at %d Hz a tone stands in its third-octave with its level', (rate) => {
  for (const hz of [31.6, 100, 1000, 10000]) {
    const bands = measured(rate, sine(hz, -20, 4, rate));
    expect(at(bands, hz).levelDbfs).toBeCloseTo(-20, 0);
    const rest = bands.filter((band) => band !== at(bands, hz)).map(({ levelDbfs }) => levelDbfs);
    // Below 100 Hz a window is hardly longer than a third-octave is wide.
    expect(Math.max(...rest)).toBeLessThan(hz < 100 ? -28 : -45);
  }
});

test('white noise rises by 1 dB from each third-octave to the next: each is 26 % wider', () => {
  const bands = measured(48000, noise(48000 * 30, 0.2, 9));
  const [low, high] = [at(bands, 200), at(bands, 2000)];
  expect(high.levelDbfs - low.levelDbfs).toBeCloseTo(10, 0);
});

test('width and correlation: mono, independent, inverted, silent', () => {
  const [a, b] = [noise(48000 * 10, 0.2, 1), noise(48000 * 10, 0.2, 2)];
  const band = (left: Float64Array, right: Float64Array) => at(measured(48000, left, right), 1000);
  expect(band(a, a)).toMatchObject({ sideDb: -Infinity });
  expect(band(a, a).correlation).toBeCloseTo(1, 6);
  expect(band(a, b).sideDb).toBeCloseTo(0, 0);
  expect(Math.abs(band(a, b).correlation)).toBeLessThan(0.1);
  expect(
    band(
      a,
      a.map((x) => -x),
    ).correlation,
  ).toBeCloseTo(-1, 6);
  const silent = new Float64Array(48000);
  expect(band(silent, silent)).toMatchObject({ levelDbfs: -Infinity, correlation: 1 });
});

test('a difference is at equal loudness, and is not told where there is nothing', () => {
  const level = (levelDbfs: number): BalanceBand => ({ levelDbfs, sideDb: -10, correlation: 0.9 });
  const ours = { bands: [level(-30), level(-40), level(-Infinity)], integratedLufs: -14 };
  const theirs = { bands: [level(-27), level(-40), level(-50)], integratedLufs: -11 };
  expect(balanceDifference(ours, theirs)).toEqual([0, 3, null]);
});
