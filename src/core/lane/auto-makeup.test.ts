import { withAutoMakeup } from './auto-makeup';
import { EMPTY_LANE, newStage, type Lane, type Stage } from './schema';

const joint = (integratedLufs: number) => ({ integratedLufs });
const laneOf = (...stages: Stage[]): Lane => ({ ...EMPTY_LANE, stages });
const saturation = newStage('saturation', 's');
const makeup = (lane: Lane | null, index = 0) => (lane?.stages[index].settings as { makeupDb: number }).makeupDb;

test('a stage that holds its loudness gets what it lost, or gives what it gained', () => {
  expect(makeup(withAutoMakeup(laneOf(saturation), [joint(-14), joint(-15.21)]))).toBeCloseTo(1.21, 6);
  expect(makeup(withAutoMakeup(laneOf(saturation), [joint(-14), joint(-12)]))).toBeCloseTo(-2, 6);
});

test('each stage is held for itself, and what does not hold stays', () => {
  const compressor = newStage('compressor', 'c');
  const held = { ...compressor, settings: { ...compressor.settings, makeupMatched: true } } as Stage;
  const lane = laneOf(newStage('trim', 't'), held, compressor, saturation);
  const after = withAutoMakeup(lane, [-20, -17, -18, -19, -18.5].map(joint))!;
  expect(after.stages[0]).toBe(lane.stages[0]);
  expect(makeup(after, 1)).toBeCloseTo(1, 6);
  expect(after.stages[2]).toBe(lane.stages[2]);
  expect(makeup(after, 3)).toBeCloseTo(-0.5, 6);
});

test.each([
  ['what is as loud out as in', laneOf(saturation), [-14, -14.03]],
  ['silence', laneOf(saturation), [-Infinity, -Infinity]],
  ['the joints of another lane', laneOf(saturation), [-14, -12, -12]],
  ['a stage that is off', laneOf({ ...saturation, on: false }), [-14, -12]],
])('%s changes nothing', (_, lane, levels) => {
  expect(withAutoMakeup(lane, levels.map(joint))).toBeNull();
});

test('no more is given than the control has', () => {
  expect(makeup(withAutoMakeup(laneOf(saturation), [joint(-14), joint(-60)]))).toBe(24);
});
