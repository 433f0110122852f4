import { recordedSurface } from '../../../tests/support/surface';
import { DAYLIGHT } from '../theme/palette';
import { drawFrequencyAxis, drawLevelAxis } from './axes';

test('levels are lines from edge to edge, with their figures outside on the chosen side', () => {
  const surface = recordedSurface(200, 100);
  drawLevelAxis(surface, DAYLIGHT, [0, -12], (db) => 10 - db, { left: 30, right: 190, figures: 'left' });
  expect(surface.boxes).toEqual([
    { x: 30, y: 10, width: 160, height: 1, color: DAYLIGHT.hairline },
    { x: 30, y: 22, width: 160, height: 1, color: DAYLIGHT.hairline },
  ]);
  expect(surface.words()).toEqual(['0', '−12']);
  expect(surface.texts.every(({ x }) => x === 24)).toBe(true);
});

test('frequencies are named from the lowest that is asked for, and none beyond the right edge', () => {
  const surface = recordedSurface(400, 100);
  drawFrequencyAxis(surface, DAYLIGHT, (hz) => 130 * Math.log10(hz / 10), { top: 0, bottom: 80, lowestHz: 100 });
  expect(surface.words()).toEqual(['100', '200', '500', '1 k', '2 k', '5 k', '10 k', '20 k']);
  expect(Math.max(...surface.texts.map(({ x }) => x))).toBeLessThanOrEqual(384);
});
