import { bandOutput } from '../../../core/stages/band-dynamics/design';
import { dynamicsBand, type DynamicsBand } from '../../../core/stages/band-dynamics/settings';
import { curvePoints, withPoint } from './curve-points';

const band = (part: object = {}): DynamicsBand =>
  dynamicsBand.parse({
    compression: { thresholdDbfs: -30, ratio: 2, kneeDb: 0 },
    expansion: { thresholdDbfs: -50, ratio: 2, rangeDb: 48 },
    makeupDb: 2,
    ...part,
  });
const pointOf = (of: DynamicsBand, name: string) => curvePoints(of).find((point) => point.name === name)!;

test('every point but the limit lies on the curve', () => {
  for (const each of [band(), band({ compression: { thresholdDbfs: -18, ratio: 4, kneeDb: 12 } }), band({ on: false })])
    for (const { name, into, out } of curvePoints(each))
      if (name !== 'limitAt') expect([name, out]).toEqual([name, bandOutput(each, into)]);
});

test.each(['expandBelow', 'compressAbove'] as const)('%s moves its threshold to where it is dragged', (name) => {
  const moved = { ...band(), ...withPoint(band(), name, -41.23) };
  expect(pointOf(moved, name).into).toBeCloseTo(-41.2, 6);
});

test.each([
  ['expandBy', -80],
  ['expandBy', -64],
  ['compressBy', -20],
  ['compressBy', -14],
  ['limitAt', -9],
] as const)('%s dragged to %d dBFS has the curve go through there', (name, level) => {
  const moved = { ...band(), ...withPoint(band(), name, level) };
  // A ratio goes in steps of 0.05.
  expect(Math.abs(pointOf(moved, name).out - level)).toBeLessThan(0.5);
});

test('nothing is moved beyond what a band can be set to', () => {
  for (const name of ['expandBelow', 'expandBy', 'compressAbove', 'compressBy', 'limitAt'] as const)
    for (const level of [-300, -72, 0, 100]) {
      const moved = { ...band(), ...withPoint(band(), name, level) };
      expect(dynamicsBand.safeParse(moved).error).toBeUndefined();
    }
  expect(withPoint(band(), 'compressBy', 100).compression!.ratio).toBe(1);
  expect(withPoint(band(), 'expandBy', 100).expansion!.ratio).toBe(1);
});
