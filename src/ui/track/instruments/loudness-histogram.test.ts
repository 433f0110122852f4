import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawLoudnessHistogram, loudnessHistogram } from './loudness-histogram';

test('each loudness has its share of the time; silence and what is very quiet have none', () => {
  const shares = loudnessHistogram(Float32Array.of(-14.5, -14.2, -20.5, -Infinity, -70, 3));
  expect(shares[48 - 15]).toBe(0.5);
  expect(shares[48 - 21]).toBe(0.25);
  expect(shares[47]).toBe(0.25);
  expect(shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
  expect(Math.max(...loudnessHistogram(Float32Array.of(-Infinity)))).toBe(0);
});

test('the highest bar is the commonest loudness, and the mark is where it is now', () => {
  const surface = recordedSurface(480, 100);
  drawLoudnessHistogram(
    surface,
    loudnessHistogram(Float32Array.of(-14.5, -14.5, -20.5)),
    -14.5,
    DAYLIGHT.patina,
    DAYLIGHT,
  );
  const bars = surface.boxes.filter(({ color }) => color === DAYLIGHT.patina);
  const tallest = bars.reduce((best, bar) => (bar.height > best.height ? bar : best));
  expect(tallest.x).toBeCloseTo(330.5, 1);
  expect(surface.boxes.find(({ color }) => color === DAYLIGHT.ink)?.x).toBeCloseTo(334, 0);
});
