import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawCorrelation } from './draw-correlation';

const series = (...values: number[][]) => Float32Array.from(values.flat());
const many = (value: number) => new Array<number>(1000).fill(value);

test('typical values are a band between their extremes; silence leaves a gap', () => {
  const surface = recordedSurface(236, 128);
  const spread = Array.from({ length: 1000 }, (_, i) => ((i * 7) % 1001) / 1000 - 0.5);
  const values = { before: series(many(1), many(1), many(1)), after: series(many(1), many(NaN), spread) };
  drawCorrelation(surface, { values, name: 'all' }, DAYLIGHT);
  // One at the top, zero in the middle: 18 and 68, minus one at the foot: 118.
  const areas = surface.paths.filter(({ color, filled }) => filled && color === DAYLIGHT.patina);
  expect(areas).toHaveLength(4);
  const ys = ({ points }: (typeof areas)[number]) => points.map(([, y]) => y);
  const [silent, extremes, , typical] = areas;
  expect(ys(silent).every((y) => Math.abs(y - 18) < 1e-6)).toBe(true);
  expect(Math.min(...ys(extremes))).toBeLessThan(45);
  expect(Math.max(...ys(extremes))).toBeGreaterThan(91);
  expect(Math.min(...ys(typical))).toBeGreaterThan(50);
  expect(Math.max(...ys(typical))).toBeLessThan(86);
  const gap = [Math.max(...silent.points.map(([x]) => x)), Math.min(...extremes.points.map(([x]) => x))];
  expect(gap[1] - gap[0]).toBeGreaterThan(60);
  const [line] = surface.paths.filter(({ color }) => color === DAYLIGHT.copper);
  expect(ys(line).every((y) => y === 18)).toBe(true);
  expect(surface.words()[0]).toBe('all, whole track');
});

test('says that it is not measured', () => {
  const surface = recordedSurface(200, 128);
  drawCorrelation(surface, { values: null, name: 'all' }, DAYLIGHT);
  expect(surface.words()[0]).toBe('not measured yet');
  expect(surface.paths).toEqual([]);
});
