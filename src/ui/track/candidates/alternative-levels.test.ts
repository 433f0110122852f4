import { withAlternativeAdded, withAlternativeHeard } from '../../../core/lane/alternatives';
import { LANE_SCHEMA, newStage, parseLane, type Lane, type Stage } from '../../../core/lane/schema';
import { withSetting } from '../../../core/lane/stage-edits';
import type { MeasuringRequest } from '../../../engine/measure/queue';
import { AlternativeLevels } from './alternative-levels';

const two = withSetting(withAlternativeAdded(newStage('trim', 'a') as Stage), 'gainDb', -6);
const lane: Lane = parseLane({ schema: LANE_SCHEMA, stages: [two, newStage('limiter', 'b')] });
const other: Lane = { ...lane, stages: [withAlternativeHeard(two, 0), lane.stages[1]] };

function levels() {
  const asked: MeasuringRequest[] = [];
  const released: string[] = [];
  const onLevel = jest.fn();
  const request = (each: MeasuringRequest) => {
    asked.push(each);
    const { settings } = each.lane.stages[0] as Extract<Stage, { kind: 'trim' }>;
    const master = { integratedLufs: -14 + settings.gainDb, truePeakDbtp: -3 };
    const ticket = { result: Promise.resolve({ master }), release: () => released.push(each.subject) };
    return ticket as never;
  };
  return { asked, released, onLevel, levels: new AlternativeLevels({ request }, onLevel) };
}
const settled = () => new Promise((resolve) => setImmediate(resolve));

test('the other alternatives of the open stage are measured once, before one switches to them', async () => {
  const { asked, released, onLevel, levels: known } = levels();
  known.follow(lane, 'a');
  known.follow(lane, 'a');
  expect(asked.map(({ subject, priority }) => [subject, priority])).toEqual([['alternative-0', 'candidate']]);
  expect(known.all()).toEqual({});
  await settled();
  expect(onLevel).toHaveBeenCalledTimes(1);
  expect(released).toEqual(['alternative-0']);
  known.learn(lane, { integratedLufs: -20, truePeakDbtp: -9 });
  expect(known.all()).toEqual({
    'alternative-0': { integratedLufs: -14, truePeakDbtp: -3 },
    'alternative-1': { integratedLufs: -20, truePeakDbtp: -9 },
  });
  expect(known.of(other)?.integratedLufs).toBe(-14);
  // Back and forth: everything is known.
  known.follow(other, 'a');
  expect(asked).toHaveLength(1);
});

test('a stage without alternatives, one that is off, and none at all ask for nothing', () => {
  const { asked, levels: known } = levels();
  known.follow(lane, 'b');
  known.follow(lane, null);
  known.follow({ ...lane, stages: [{ ...two, on: false }, lane.stages[1]] }, 'a');
  expect(asked).toEqual([]);
  expect(known.all()).toEqual({});
});
