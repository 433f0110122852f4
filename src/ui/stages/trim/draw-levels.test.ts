import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawLevels } from './draw-levels';

test('what comes out is drawn against what goes in, ending at the right', () => {
  const level = (db: number) => ({ momentaryLufs: db, truePeakDbtp: db + 10 });
  const surface = recordedSurface(260, 112);
  drawLevels(surface, { into: [level(-20), level(-20)], out: [level(-14), level(-14)], slots: 4 }, DAYLIGHT);
  const [peakIn, loudnessIn, peakOut, loudnessOut] = surface.paths.map(({ points }) => points);
  // 2 px a decibel.
  expect(loudnessIn[0][1] - loudnessOut[0][1]).toBeCloseTo(12, 6);
  expect(loudnessIn[0][1] - peakIn[0][1]).toBeCloseTo(20, 6);
  expect(peakOut.map(([x]) => x)).toEqual([116, 166]);
});

test('before anything has played it says what to do', () => {
  const surface = recordedSurface(260, 112);
  drawLevels(surface, { into: [], out: [], slots: 4 }, DAYLIGHT);
  expect(surface.words()).toContain('Play to see the level in and out');
});
