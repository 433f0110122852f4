import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawCurve } from './draw-curve';
import { drawHarmonics } from './draw-harmonics';

test('the curve passes its middle, and the music lies on it; samples over full scale are left out', () => {
  const surface = recordedSurface(220, 226);
  drawCurve(surface, { curve: (x) => x / 2, samples: Float32Array.of(0.5, 0, 1.5, 0) }, DAYLIGHT);
  const { points } = surface.paths.at(-1)!;
  expect(points[60]).toEqual([110, 108]);
  expect(points[120]).toEqual([210, 58]);
  const dots = surface.boxes.filter(({ color }) => color === DAYLIGHT.copper);
  expect(dots.map(({ x, y }) => [x + 1, y + 3])).toEqual([[160, 83]]);
});

test('the tone comes first; even harmonics are copper, odd ones ink, and those below the picture are missing', () => {
  const surface = recordedSurface(400, 124);
  drawHarmonics(surface, [-20, -40, -140, -60], DAYLIGHT);
  const bars = surface.boxes.filter(({ height }) => height > 1);
  expect(bars.map(({ color }) => color)).toEqual([DAYLIGHT.patina, DAYLIGHT.copper, DAYLIGHT.ink, DAYLIGHT.ink]);
  expect(bars.map(({ height }) => Math.round(height))).toEqual([100, 80, 60, 40]);
  expect(surface.words().slice(-5)).toEqual(['tone', '2', '3', '4', '5']);
});
