import {
  alternativesOf,
  heardAlternative,
  withAlternativeAdded,
  withAlternativeCopied,
  withAlternativeHeard,
  withAlternativeNamed,
  withAlternativeRemoved,
} from './alternatives';
import { withBandSplit } from './crossover-edits';
import { LANE_SCHEMA, newStage, parseLane, type Lane, type Stage } from './schema';
import { withSetting } from './stage-edits';

const TRIM = newStage('trim', 'a');
const gain = (gainDb: number) => (stage: Stage) => withSetting(stage, 'gainDb', gainDb);
const names = (stage: Stage) => alternativesOf(stage).map(({ name }) => name);
const heardGain = ({ settings }: Stage) => (settings as { gainDb: number }).gainDb;
/** A trim with −1 dB as A, −2 dB as B, and −3 dB as C, which is heard. */
const three = (): Stage => gain(-3)(withAlternativeAdded(gain(-2)(withAlternativeAdded(gain(-1)(TRIM as Stage)))));

test('an added alternative is a copy that is heard; the others keep what they were', () => {
  const stage = three();
  expect(names(stage)).toEqual(['A', 'B', 'C']);
  expect(heardAlternative(stage)).toBe(2);
  expect([0, 1, 2].map((place) => heardGain(withAlternativeHeard(stage, place)))).toEqual([-1, -2, -3]);
  const there = withAlternativeHeard(withAlternativeHeard(stage, 0), 2);
  expect(there).toEqual(stage);
  expect(withAlternativeHeard(stage, 7)).toBe(stage);
  const four = withAlternativeAdded(stage);
  expect(withAlternativeAdded(four)).toBe(four);
});

test('what is removed is not heard any longer, and of one alone nothing is kept', () => {
  const stage = three();
  const without = withAlternativeRemoved(stage, 2);
  expect([names(without), heardGain(without)]).toEqual([['A', 'B'], -2]);
  expect(heardGain(withAlternativeRemoved(stage, 0))).toBe(-3);
  const first = withAlternativeHeard(stage, 0);
  expect(heardGain(withAlternativeRemoved(first, 0))).toBe(-2);
  const alone = withAlternativeRemoved(without, 0);
  expect(alone).toEqual(gain(-2)(TRIM as Stage));
  // The letter that is free is used again.
  expect(names(withAlternativeAdded(withAlternativeRemoved(stage, 1)))).toEqual(['A', 'C', 'B']);
});

test('what is heard is copied to another, and names change nothing else', () => {
  const copied = withAlternativeCopied(three(), 0);
  expect(heardGain(withAlternativeHeard(copied, 0))).toBe(-3);
  expect(withAlternativeCopied(copied, 2)).toBe(copied);
  expect(names(withAlternativeNamed(copied, 1, 'Quieter'))).toEqual(['A', 'Quieter', 'C']);
});

test('they are saved with the lane, and what is not so is refused in words', () => {
  const lane = (stage: unknown) => ({ schema: LANE_SCHEMA, stages: [stage] });
  expect(parseLane(lane(three())).stages[0]).toEqual(three());
  const other = { name: 'B', settings: {} };
  const refused = (alternatives: unknown) => () => parseLane(lane({ ...TRIM, alternatives }));
  expect(refused([{ name: 'A', settings: null }])).toThrow('either no alternatives or at least two');
  expect(refused([other, { ...other, name: 'C' }])).toThrow('One alternative of a stage is heard.');
  expect(refused([{ name: 'A', settings: null }, other, other, other, other])).toThrow('at most 4 alternatives');
  expect(
    refused([
      { name: 'A', settings: null },
      { name: ' ', settings: {} },
    ]),
  ).toThrow('Give the alternative a name.');
  expect(
    refused([
      { name: 'A', settings: null },
      { name: 'B', settings: { gainDb: 99 } },
    ]),
  ).toThrow('Gain must be at most 24 dB');
});

test('the two states that the equalizer had until schema 6 become its alternatives', () => {
  const settings = {
    ...{ scalePercent: 80, phase: 'linear', bands: [{ shape: 'bell', gainDb: 5, frequencyHz: 900 }] },
    ...{ state: 2, other: { scalePercent: 150, bands: [] } },
  };
  const [stage] = parseLane({ schema: 6, stages: [{ id: 'a', kind: 'equalizer', settings }] }).stages;
  expect(names(stage)).toEqual(['A', 'B']);
  expect(heardAlternative(stage)).toBe(1);
  expect(stage.settings).toMatchObject({ scalePercent: 80, phase: 'linear', bands: [{ gainDb: 5 }] });
  expect(withAlternativeHeard(stage, 0).settings).toMatchObject({ scalePercent: 150, phase: 'linear', bands: [] });
  const alone = { ...settings, other: null, state: 1 };
  expect(
    parseLane({ schema: 6, stages: [{ id: 'a', kind: 'equalizer', settings: alone }] }).stages[0].alternatives,
  ).toBeUndefined();
});

test('a band that is split is split in every alternative', () => {
  const stage = withAlternativeAdded(newStage('bandDynamics', 'a') as Stage);
  const lane: Lane = parseLane({ schema: LANE_SCHEMA, stages: [stage] });
  const [before, after] = [lane, withBandSplit(lane, 0)].map(({ stages }) => stages[0]);
  expect(after.settings).not.toBe(before.settings);
  expect(withAlternativeHeard(after, 0).settings).toEqual(after.settings);
});
