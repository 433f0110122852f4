import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawCorrelation } from './draw-correlation';

test('lines run from −1 at the foot to +1 at the top; silence leaves a gap on the zero', () => {
  const image = (all: number[], band: number[]) => ({
    correlation: Float32Array.from(all),
    bands: [Float32Array.from(band)],
  });
  const images = { before: image([1, 1, 1], [0, 0, 0]), after: image([1, NaN, -1], [0.5, 0.5, 0.5]) };
  const surface = recordedSurface(200, 128);
  drawCorrelation(surface, { images: images as never, band: 0 }, DAYLIGHT);
  const line = (color: string, dashed: boolean) =>
    surface.paths.find((path) => path.color === color && path.dashed === dashed)!.points.map(([, y]) => y);
  expect(line(DAYLIGHT.patina, false)).toEqual([18, 68, 118]);
  expect(line(DAYLIGHT.copper, true)).toEqual([68, 68, 68]);
  expect(surface.words()[0]).toBe('whole track; dotted: band 1');
});

test('says that it is not measured', () => {
  const surface = recordedSurface(200, 128);
  drawCorrelation(surface, { images: null, band: 0 }, DAYLIGHT);
  expect(surface.words()[0]).toBe('not measured yet');
  expect(surface.paths).toEqual([]);
});
