import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { columnsOf, drawLimiting, reductionShares } from './draw-limiting';

// A hundred values; the twenty in the middle come 6 dB over the ceiling.
const reductions = Float32Array.from({ length: 100 }, (_, i) => (i >= 40 && i < 60 ? 6 : 0));
const into = reductions.map((db) => -1 + db);
const out = reductions.map(() => -1);
const picture = { into, out, reductions, slots: 100, ceilingDb: -1, when: 'whole track', empty: 'Not measured yet' };

test('columns keep the highest value, and what is missing stands at the left', () => {
  expect(columnsOf([1, 5, 2, 9], 4, 2)).toEqual([5, 9]);
  expect(columnsOf([1, 2], 4, 4)).toEqual([null, null, 1, 2]);
  expect(columnsOf([3], 1, 3)).toEqual([3, 3, 3]);
  expect(columnsOf([], 4, 2)).toEqual([null, null]);
});

test('what was taken stands in copper above the ceiling, where and as high as it was', () => {
  const surface = recordedSurface(800, 240);
  drawLimiting(surface, picture, DAYLIGHT);
  const ceiling = surface.boxes.find(({ color, height }) => color === DAYLIGHT.ink && height === 1)!.y + 0.5;
  const [copper] = surface.paths.filter(({ color, filled }) => filled && color === DAYLIGHT.copper);
  const above = copper.points.filter(([, y]) => y < ceiling - 1).map(([x]) => x);
  const plot = 800 - 8 - 40 - 104 - 18;
  expect(Math.min(...above)).toBeCloseTo(8 + 0.4 * plot, -1);
  expect(Math.max(...above)).toBeCloseTo(8 + 0.6 * plot, -1);
  const patina = surface.paths.find(({ color }) => color === DAYLIGHT.patina)!;
  expect(Math.min(...patina.points.map(([, y]) => y))).toBeCloseTo(ceiling, 6);
});

test('the line hangs as deep as was taken, on an axis of its own, and the histogram tells how often', () => {
  const surface = recordedSurface(800, 240);
  drawLimiting(surface, picture, DAYLIGHT);
  const line = surface.paths.find(({ color, filled }) => !filled && color === DAYLIGHT.ink)!;
  const deepest = Math.max(...line.points.map(([, y]) => y));
  const axis = surface.texts.findLast(({ text }) => text === '−6')!;
  // 6.3 dB do not fit on an axis of 6: the next is 12, whose middle is 6.
  expect(deepest).toBeCloseTo(axis.y - 3.5, 6);
  expect(surface.words()).toContain('20 %');
  expect(surface.words()).toContain('whole track: at most −6.0 dB, limits 20 % of the time');
  expect(reductionShares(Float32Array.of(0, 0.05, 1, 5.9), 6)).toEqual([0, 25, 0, 0, 0, 25]);
});

test('a limiter that takes nothing says so, and nothing is drawn of what is not measured', () => {
  const surface = recordedSurface(800, 240);
  drawLimiting(surface, { ...picture, into: out, reductions: new Float32Array(100) }, DAYLIGHT);
  expect(surface.words()).toContain('whole track: no peak reaches the ceiling');
  const none = recordedSurface(800, 240);
  drawLimiting(none, { ...picture, into: [], out: [], reductions: [] }, DAYLIGHT);
  expect(none.words()).toEqual(['Not measured yet']);
});
