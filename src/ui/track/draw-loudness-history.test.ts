import { recordedSurface } from '../../../tests/support/surface';
import { DAYLIGHT } from '../theme/palette';
import { drawLoudnessHistory } from './draw-loudness-history';

test('the newest loudness is at the right, silence leaves a gap, and what is off the paper stays at its edge', () => {
  const surface = recordedSurface(126, 84);
  const at = (shortTermLufs: number) => ({ momentaryLufs: -21, shortTermLufs });
  drawLoudnessHistory(surface, [at(-14), at(-Infinity), at(-28), at(-50)], 10, DAYLIGHT.patina, DAYLIGHT);
  // 100 px for ten slots, 2 px for each LU down from 0.
  const bold = surface.paths.filter(({ color }) => color === DAYLIGHT.patina);
  expect(bold.flatMap(({ points }) => points)).toEqual([
    [70, 28],
    [90, 56],
    [100, 84],
  ]);
  expect(surface.words()).toEqual(['−6', '−12', '−18', '−24', '−30', '−36']);
});
