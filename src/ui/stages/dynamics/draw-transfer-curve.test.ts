import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawTransferCurve } from './draw-transfer-curve';

/** 4:1 above −24 dBFS. */
const output = (db: number) => (db < -24 ? db : -24 + (db + 24) / 4);
const drawn = (now: { into: number; out: number } | null) => {
  const surface = recordedSurface(300, 300);
  drawTransferCurve(surface, { output, thresholds: [-24], now }, DAYLIGHT);
  return surface;
};
const curve = ({ paths }: ReturnType<typeof drawn>) =>
  paths.find(({ color, filled }) => color === DAYLIGHT.ink && !filled)!.points;

test('the curve is at 45° below the threshold, and rises a quarter as much above it', () => {
  const points = curve(drawn(null));
  const slope = (from: number, to: number) => {
    const [[ax, ay], [bx, by]] = [points[2 * (from + 60)], points[2 * (to + 60)]];
    return (ay - by) / (bx - ax);
  };
  expect(slope(-60, -24)).toBeCloseTo(1, 6);
  expect(slope(-24, 0)).toBeCloseTo(0.25, 6);
});

test('the present level stands on the curve; below the picture nothing is marked', () => {
  const dot = drawn({ into: -12, out: output(-12) }).paths.at(-1)!;
  expect(dot.filled).toBe(true);
  const [x, y] = curve(drawn(null))[96];
  expect(dot.points[0][0]).toBeCloseTo(x, 6);
  expect(dot.points[0][1]).toBeCloseTo(y, 6);
  expect(drawn({ into: -80, out: -80 }).paths.some(({ filled }) => filled)).toBe(false);
});
