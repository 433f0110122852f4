import { recordedSurface } from '../../../../tests/support/surface';
import { DAYLIGHT } from '../../theme/palette';
import { drawRibbon, RIBBON_AT_REST, ribbonAt } from './draw-ribbon';

test('louder is thicker, within what fits', () => {
  expect(ribbonAt(-14, -1).body).toBeGreaterThan(ribbonAt(-20, -1).body);
  expect(ribbonAt(-Infinity, -Infinity)).toEqual(RIBBON_AT_REST);
  expect(ribbonAt(10, 20)).toEqual({ body: 46, edge: 58 });
});

test('its body has the height of each joint at the ends, and changes at the stages between', () => {
  const surface = recordedSurface(300, 60);
  drawRibbon(
    surface,
    [
      { body: 10, edge: 20 },
      { body: 30, edge: 40 },
      { body: 20, edge: 30 },
    ],
    0,
    DAYLIGHT,
  );
  const [edge, body] = surface.paths.map(({ points }) => points);
  const heightAt = (points: [number, number][], x: number) => {
    const ys = points.filter(([px]) => px === x).map(([, y]) => y);
    return Math.max(...ys) - Math.min(...ys);
  };
  expect([0, 300].map((x) => heightAt(body, x))).toEqual([10, 20]);
  expect([0, 300].map((x) => heightAt(edge, x))).toEqual([20, 30]);
  // Stages stand at 75 and 225; after the first, 18 px on, the second height holds.
  expect(heightAt(body, 93)).toBe(30);
});
