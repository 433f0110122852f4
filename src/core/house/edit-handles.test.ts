import { parseLane } from '../lane/schema';
import {
  houseOf,
  withHandleAdded,
  withHandleNamed,
  withHandleRemoved,
  withMoveAdded,
  withMoveRange,
  withMoveRemoved,
  withoutHouse,
} from './edit-handles';
import { withHandleAt, withHouse } from './handles';

const lane = parseLane({ schema: 8, stages: [{ id: 'end', kind: 'limiter', settings: { inputGainDb: 3 } }] });
const gain = (of: typeof lane) => (of.stages[0].settings as { inputGainDb: number }).inputGainDb;

test('a handle is made by pointing at a control, gets a name and a range, and moves it', () => {
  const pointed = withMoveAdded(withHandleNamed(withHandleAdded(lane), 0, 'Drive'), 0, 'end', 'inputGainDb');
  const made = withMoveRange(pointed, 0, { stage: 'end', control: 'inputGainDb' }, { from: 1, to: 9 });
  expect(made.house).toMatchObject({
    amountPercent: 100,
    handles: [
      { name: 'Drive', percent: 50, moves: [{ stage: 'end', control: 'inputGainDb', from: 1, rest: 3, to: 9 }] },
    ],
    scales: [{ stage: 'end', control: 'inputGainDb', neutral: 0, rest: 3 }],
  });
  expect(gain(made)).toBe(3);
  expect(gain(withHouse(made, withHandleAt(made.house!, 0, 100)))).toBe(9);
  expect(parseLane(JSON.parse(JSON.stringify(made)))).toEqual(made);
  // Pointed at twice, it is moved once.
  expect(withMoveAdded(made, 0, 'end', 'inputGainDb').house!.handles[0].moves).toHaveLength(1);
  expect(withMoveRemoved(made, 0, 'end', 'inputGainDb').house!.handles[0].moves).toEqual([]);
  expect(withHandleRemoved(made, 0).house!.handles).toEqual([]);
  expect(withoutHouse(made)).toEqual(lane);
});

test('a lane has at most six handles, and a path that names no control adds nothing', () => {
  let full = lane;
  for (let i = 0; i < 9; i++) full = withHandleAdded(full);
  expect(houseOf(full).handles).toHaveLength(6);
  expect(withMoveAdded(full, 0, 'end', 'detection')).toBe(full);
  expect(withMoveAdded(full, 0, 'gone', 'inputGainDb')).toBe(full);
});
