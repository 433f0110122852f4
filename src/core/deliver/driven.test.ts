import { LANE_SCHEMA, parseLane, type Lane } from '../lane/schema';
import { driven, lastLimiter } from './driven';

const lane = (...stages: object[]): Lane =>
  parseLane({ schema: LANE_SCHEMA, stages: stages.map((stage, i) => ({ id: `${i}`, ...stage })) });
const limiter = (inputGainDb: number, on = true) => ({ kind: 'limiter', on, settings: { inputGainDb } });
const gains = ({ stages }: Lane) => stages.map(({ settings }) => (settings as { inputGainDb?: number }).inputGainDb);

test('the last limiter that is on takes the drive, and nothing else changes', () => {
  const given = lane(limiter(3), { kind: 'trim', settings: {} }, limiter(6), limiter(9, false));
  expect(lastLimiter(given)?.id).toBe('2');
  expect(gains(driven(given, 1.5)!)).toEqual([3, undefined, 7.5, 9]);
  expect(gains(driven(given, -2)!)).toEqual([3, undefined, 4, 9]);
  expect(gains(given)).toEqual([3, undefined, 6, 9]);
  expect(driven(given, 0)).toBe(given);
});

test('a drive that no limiter can take is none', () => {
  expect(driven(lane(limiter(6, false)), 1)).toBeNull();
  expect(driven(lane(), 1)).toBeNull();
  expect(driven(lane(), 0)).toEqual(lane());
  // The input gain goes from −12 to 24 dB.
  expect(gains(driven(lane(limiter(14)), 10)!)).toEqual([24]);
  expect(driven(lane(limiter(14)), 10.1)).toBeNull();
  expect(gains(driven(lane(limiter(-2)), -10)!)).toEqual([-12]);
  expect(driven(lane(limiter(-2)), -10.1)).toBeNull();
});
