import { recordedSurface } from '../../../../tests/support/surface';
import { THIRD_OCTAVES_HZ } from '../../../core/measure/balance';
import { DAYLIGHT } from '../../theme/palette';
import { drawBalanceDifference } from './draw-balance-difference';

test('what the master has more of stands up, what it has less of hangs down; what is not known is left out', () => {
  const surface = recordedSurface(600, 200);
  const difference = THIRD_OCTAVES_HZ.map((_, i) => (i === 0 ? null : i < 10 ? 6 : -3));
  drawBalanceDifference(surface, difference, DAYLIGHT);
  const bars = surface.boxes.filter(({ color, width }) => color === DAYLIGHT.ink && width < 30);
  const [up, down] = [bars.slice(0, 9), bars.slice(9)];
  expect([up.length, down.length]).toEqual([9, THIRD_OCTAVES_HZ.length - 10]);
  expect(up[0].y + up[0].height).toBeCloseTo(down[0].y, 6);
  expect(up[0].height).toBeCloseTo(2 * down[0].height, 6);
  expect(surface.words()).toEqual(expect.arrayContaining(['100', '1 k', '10 k', '+5', '−10']));
});
