import { recordedSurface } from '../../../../tests/support/surface';
import { LEVEL_CLASSES, LOWEST_DB } from '../../../core/measure/band-levels';
import { dynamicsBand } from '../../../core/stages/band-dynamics/settings';
import { DAYLIGHT } from '../../theme/palette';
import { curveScale, drawBandCurve } from './draw-band-curve';

const band = dynamicsBand.parse({ compression: { thresholdDbfs: -36, ratio: 2, kneeDb: 0 } });
const levels = new Float32Array(LEVEL_CLASSES);
levels[-24 - LOWEST_DB] = 0.5;
const picture = { band, levels, now: null, most: 3, name: '2', open: true };
const { x, y } = curveScale(200, 160);

test('the curve bends where the band begins to work, and the music stands where it is', () => {
  const surface = recordedSurface(200, 160);
  drawBandCurve(surface, picture, DAYLIGHT);
  const curve = surface.paths.find(({ color, filled }) => !filled && color === DAYLIGHT.ink)!.points;
  const at = (db: number) => curve.find(([px]) => Math.abs(px - x(db)) < 0.01)![1];
  expect(at(-60)).toBeCloseTo(y(-60), 6);
  expect(at(-12)).toBeCloseTo(y(-24), 6);
  const [bar] = surface.boxes.filter(({ color }) => color === DAYLIGHT.copper);
  expect(bar.x + bar.width / 2).toBeCloseTo(x(-24), 0);
  expect(surface.words()).toEqual(['2', 'most −3.0 dB']);
});

test('while playing the level is marked with what comes out of it', () => {
  const surface = recordedSurface(200, 160);
  drawBandCurve(surface, { ...picture, levels: null, now: { level: -20, reduction: 8 } }, DAYLIGHT);
  const dot = surface.paths.find(({ color, filled }) => filled && color === DAYLIGHT.patina)!.points[0];
  expect(dot).toEqual([x(-20), y(-28)]);
  expect(surface.words()).toContain('now −8.0 dB');
});
