import fc from 'fast-check';
import { controlQuantity, controlValue, withControl } from '../lane/control-path';
import { LANE_SCHEMA, parseLane, type Lane, type Stage } from '../lane/schema';
import { atRest, moveOf, scalesOf, withHandleAt, withHouse } from './handles';
import { foundAmong, parseHouseLane } from './house-lane';
import { HOUSE_LANES } from './ready-made';
import { MOST_HANDLES } from './schema';

const stageOf = ({ stages }: Pick<Lane, 'stages'>, id: string): Stage => stages.find((stage) => stage.id === id)!;
const EVEN = HOUSE_LANES[0].lane;

test('there are a dozen house lanes, each with a sentence, and handles that move what they name within its range', () => {
  expect(HOUSE_LANES.length).toBe(12);
  expect(new Set(HOUSE_LANES.map(({ name }) => name)).size).toBe(12);
  for (const { sentence, lane } of HOUSE_LANES) {
    expect(sentence).toMatch(/^\S.{30,}\.$/);
    const { handles, scales } = lane.house!;
    expect(handles.length).toBeGreaterThan(2);
    expect(handles.length).toBeLessThanOrEqual(MOST_HANDLES);
    expect(scales.length).toBeGreaterThan(0);
    for (const { moves } of handles)
      for (const { stage, control, from, rest, to } of moves) {
        const { min, max } = controlQuantity(stageOf(lane, stage), control)!;
        for (const value of [from, rest, to]) {
          expect(value).toBeGreaterThanOrEqual(min);
          expect(value).toBeLessThanOrEqual(max);
        }
        expect(Math.sign(to - rest) * Math.sign(rest - from)).toBeGreaterThanOrEqual(0);
        expect(to).not.toBe(from);
      }
    expect(parseLane(JSON.parse(JSON.stringify(lane)))).toEqual(lane);
  }
});

test('a handle goes from one end of its range through what was saved to the other', () => {
  const at = (percent: number) =>
    controlValue(stageOf(withHouse(EVEN, withHandleAt(EVEN.house!, 3, percent)), 'limiter'), 'inputGainDb');
  expect([0, 25, 50, 75, 100].map(at)).toEqual([0, 2, 4, 6, 8]);
});

test('frequencies go in ratios', () => {
  const lane = parseLane({
    schema: 8,
    stages: [{ id: 'e', kind: 'equalizer', settings: { bands: [{ shape: 'bell' }] } }],
  });
  const move = { stage: 'e', control: 'bands.0.frequencyHz', from: 250, rest: 1000, to: 4000 };
  const house = { name: '', amountPercent: 100, scales: [], handles: [{ name: 'Place', percent: 50, moves: [move] }] };
  const at = (percent: number) =>
    controlValue(withHouse({ ...lane, house }, withHandleAt(house, 0, percent)).stages[0], 'bands.0.frequencyHz');
  expect([0, 25, 50, 75, 100].map(at)).toEqual([250, 500, 1000, 2000, 4000]);
});

test('the amount goes from nothing to half as much again', () => {
  const at = (amountPercent: number) => {
    const { stages } = withHouse(EVEN, { ...EVEN.house!, amountPercent });
    return [
      controlValue(stageOf({ stages }, 'limiter'), 'inputGainDb'),
      controlValue(stageOf({ stages }, 'glue'), 'ratio'),
      controlValue(stageOf({ stages }, 'tone'), 'scalePercent'),
    ];
  };
  expect(at(0)).toEqual([0, 1, 0]);
  expect(at(100)).toEqual([4, 1.6, 100]);
  expect(at(150)).toEqual([6, 1.9, 150]);
});

const positions = fc.array(fc.record({ index: fc.nat(5), percent: fc.nat(100), amount: fc.nat(150) }), {
  minLength: 1,
  maxLength: 8,
});

test('handles and amount are reversible: back in the middle, every house lane is as it was', () => {
  fc.assert(
    fc.property(fc.constantFrom(...HOUSE_LANES), positions, ({ lane }, moves) => {
      let moved: Lane = lane;
      for (const { index, percent, amount } of moves) {
        const handled = withHandleAt(moved.house!, index % moved.house!.handles.length, percent);
        moved = withHouse(moved, { ...handled, amountPercent: amount });
        // Every position is a lane that can be saved.
        expect(parseLane(JSON.parse(JSON.stringify(moved)))).toEqual(moved);
      }
      const rested = moved.house!.handles.reduce((house, _, i) => withHandleAt(house, i, 50), moved.house!);
      expect(withHouse(moved, { ...rested, amountPercent: 100 })).toEqual(lane);
    }),
    { numRuns: 300 },
  );
});

test('what was changed by hand stays as a distance, and two handles on one control add up', () => {
  const byHand = {
    ...EVEN,
    stages: EVEN.stages.map((each) => (each.id === 'limiter' ? withControl(each, 'inputGainDb', 5) : each)),
  };
  const more = withHouse(byHand, withHandleAt(byHand.house!, 3, 75));
  expect(controlValue(stageOf(more, 'limiter'), 'inputGainDb')).toBe(7);
  const [loudness] = EVEN.house!.handles.filter(({ name }) => name === 'Loudness');
  const twice = { ...EVEN.house!, handles: [loudness, { ...loudness, name: 'More' }] };
  const both = withHouse(EVEN, withHandleAt(withHandleAt(twice, 0, 75), 1, 75));
  expect(controlValue(stageOf(both, 'limiter'), 'inputGainDb')).toBe(8);
});

test('a lane that is saved rests where it stands, without what its stages no longer have', () => {
  const loud = withHouse(EVEN, withHandleAt(EVEN.house!, 3, 100));
  const saved = atRest(loud, 'Louder');
  expect(saved.house).toMatchObject({ name: 'Louder', amountPercent: 100 });
  const move = saved.house!.handles[3].moves[0];
  expect(move).toMatchObject({ from: 4, rest: 8, to: 12 });
  expect(saved.house!.scales).toEqual(scalesOf(loud));
  // What is gone is left behind.
  const less = atRest({ ...EVEN, stages: EVEN.stages.filter(({ id }) => id !== 'limiter') }, 'Quiet');
  expect(less.house!.handles[3].moves).toEqual([]);
  expect(less.house!.scales.some(({ stage }) => stage === 'limiter')).toBe(false);
});

test('a control that is pointed at gets a range around where it stands', () => {
  const limiter = stageOf(EVEN, 'limiter');
  expect(moveOf(limiter, 'inputGainDb')).toEqual({
    stage: 'limiter',
    control: 'inputGainDb',
    from: -1.4,
    rest: 4,
    to: 9.4,
  });
  const recovery = moveOf(limiter, 'recoveryMs')!;
  expect(recovery.rest / recovery.from).toBeCloseTo(recovery.to / recovery.rest, 1);
  for (const control of ['detection', 'constructor', '__proto__.x', 'bands.0.gainDb', 'inputGainDb.x'])
    expect(moveOf(limiter, control)).toBeNull();
});

test('house lanes are found by all words of name, sentence, material, purpose and handles', () => {
  const names = (words: string) => foundAmong(HOUSE_LANES, words).map(({ name }) => name);
  expect(names('')).toHaveLength(12);
  expect(names('choir')).toContain('Choir in a hall');
  expect(names('electronic punch')).toEqual(['Electronic, deep and loud']);
  expect(names('no such thing')).toEqual([]);
});

test('files of older lanes are read; what is none gets a sentence', () => {
  const [first] = HOUSE_LANES;
  const older = { ...first, lane: { schema: 7, stages: [{ id: 't', kind: 'trim', settings: { gainDb: 2 } }] } };
  expect(parseHouseLane(older).lane).toMatchObject({ schema: LANE_SCHEMA, stages: [{ kind: 'trim' }] });
  expect(() => parseHouseLane({ ...first, schema: 9 })).toThrow(/open it with a newer Copper Lane/);
  expect(() => parseHouseLane({ ...first, name: '' })).toThrow('Give the house lane a name.');
  expect(() => parseHouseLane('{}')).toThrow(/^The house lane can’t be read\./);
});
