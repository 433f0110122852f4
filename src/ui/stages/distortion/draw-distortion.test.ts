import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawDistortion } from './draw-distortion';
import { drawWave } from './draw-wave';

test('distortion stands inside the music it is masked by, and below the picture it is not drawn', () => {
  const bands = [
    { hz: 100, programmeDbfs: -30, distortionDbfs: -60 },
    { hz: 1000, programmeDbfs: -30, distortionDbfs: -120 },
  ];
  const surface = recordedSurface(300, 150);
  drawDistortion(surface, bands, DAYLIGHT);
  const copper = surface.boxes.filter(({ color }) => color === DAYLIGHT.copper);
  const patina = surface.boxes.filter(({ color }) => color === DAYLIGHT.patina);
  expect(copper).toHaveLength(1);
  expect(copper[0].y).toBeGreaterThan(patina[0].y);
  expect(copper[0].y + copper[0].height).toBeCloseTo(patina[0].y + patina[0].height, 6);
  expect(surface.words().slice(-2)).toEqual(['100', '1 k']);
});

test('a wave is shown from a rising zero in its loudest piece, both lines on one scale', () => {
  // Quiet, then louder; a period is 100 frames.
  const before = Float32Array.from(
    { length: 1000 },
    (_, i) => (i < 500 ? 0.2 : 0.8) * Math.sin((2 * Math.PI * i) / 100),
  );
  const after = before.map((x) => x / 2);
  const surface = recordedSurface(100, 106);
  drawWave(surface, { wave: { before, after }, frames: 200 }, DAYLIGHT);
  const [copper, patina] = surface.paths.map(({ points }) => points.map(([, y]) => 53 - y));
  expect(Math.abs(copper[0])).toBeLessThan(4);
  expect(copper[1]).toBeGreaterThan(copper[0]);
  expect(Math.max(...copper)).toBeCloseTo(47, 1);
  expect(patina).toEqual(copper.map((y) => expect.closeTo(y / 2, 4) as number));
});

test('no wave says so', () => {
  const surface = recordedSurface(100, 106);
  drawWave(surface, { wave: null, frames: 200 }, DAYLIGHT);
  expect(surface.words()).toEqual(['Not measured yet']);
});
