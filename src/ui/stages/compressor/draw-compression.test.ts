import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawCompression } from './draw-compression';

const drawn = (picture: Parameters<typeof drawCompression>[1]) => {
  const surface = recordedSurface(400, 200);
  drawCompression(surface, picture, DAYLIGHT);
  return surface;
};

test('at rest the whole track is shown with its deepest reduction', () => {
  const surface = drawn({ reductions: [0, 4.25, 1], slots: 3, live: null, measured: true });
  expect(surface.words().at(-1)).toBe('most in the whole track −4.3 dB');
});

test('while playing, peaks in and out run below it to the same right edge, and a missing one is skipped', () => {
  const live = { into: [-12, null, -6], out: [-14, -14, -10] };
  const surface = drawn({ reductions: [2, 2, 4], slots: 10, live, measured: true });
  const line = (color: string) => surface.paths.filter((path) => path.color === color).at(-1)!.points;
  expect(line(DAYLIGHT.copper)).toHaveLength(2);
  expect(line(DAYLIGHT.patina)).toHaveLength(3);
  expect(line(DAYLIGHT.copper).at(-1)![0]).toBe(line(DAYLIGHT.patina).at(-1)![0]);
  // Less comes out: lower in the picture.
  expect(line(DAYLIGHT.patina).at(-1)![1]).toBeGreaterThan(line(DAYLIGHT.copper).at(-1)![1]);
});

test('tells a track without reduction from one that is not measured', () => {
  const nothing = { reductions: [], slots: 10, live: null };
  expect(drawn({ ...nothing, measured: true }).words()).toContain('Nothing is above the threshold');
  expect(drawn({ ...nothing, measured: false }).words()).toContain('Not measured yet');
});
