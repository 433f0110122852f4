import { recordedSurface } from '../../../../tests/support/surface';
import { clipperSettings } from '../../../core/stages/clipper/settings';
import { DAYLIGHT } from '../../theme/palette';
import { drawCeiling, highest } from './draw-ceiling';

const RATE = 48000;
const before = Float32Array.from({ length: 4800 }, (_, i) => Math.sin((2 * Math.PI * 100 * i) / RATE));
const after = before.map((x) => Math.max(-0.5, Math.min(0.5, x)));
const settings = clipperSettings.parse({ ceilingDbfs: -6.02 });
const picture = { settings, playing: false, heightDb: 3, spanMs: 10, sampleRate: RATE };

test('the highest sample is found with its place', () => {
  expect(highest(Float32Array.of(0.1, -0.7, 0.5))).toEqual({ peak: expect.closeTo(0.7, 6) as number, at: 1 });
  expect(highest(new Float32Array(0))).toEqual({ peak: 0, at: 0 });
});

test('what is over the ceiling is drawn above the middle, what is left ends on it', () => {
  const surface = recordedSurface(700, 200);
  drawCeiling(surface, { ...picture, wave: { before, after, at: 120 }, peaks: [1, 0.5] }, DAYLIGHT);
  const top = (color: string) =>
    Math.min(...surface.paths.find((path) => path.color === color)!.points.map(([, y]) => y));
  expect(top(DAYLIGHT.copper)).toBeLessThan(0);
  expect(top(DAYLIGHT.patina)).toBeCloseTo(100, 0);
  expect(surface.words()).toContain('ceiling −6.0 dBFS');
  // The meters: 6 dB over the ceiling going in, at the ceiling coming out.
  const meter = (color: string) => surface.boxes.find((box) => box.color === color)!;
  expect(meter(DAYLIGHT.copper).y).toBeCloseTo(100 - 82 / 2, 0);
  expect(meter(DAYLIGHT.patina).y).toBeCloseTo(100, 0);
});

test('without a wave it says that it is not measured', () => {
  const surface = recordedSurface(700, 200);
  const wave = { before: new Float32Array(0), after: new Float32Array(0), at: 0 };
  drawCeiling(surface, { ...picture, wave, peaks: [0, 0] }, DAYLIGHT);
  expect(surface.words()).toContain('Not measured yet');
  expect(surface.words().filter((word) => word === '–')).toHaveLength(2);
});
