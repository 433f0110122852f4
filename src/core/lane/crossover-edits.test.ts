import { splitFrequency, withBandSplit, withCrossoverRemoved } from './crossover-edits';
import { laneSchema, LANE_SCHEMA, parseLane, type Lane } from './schema';

const lane = parseLane({
  schema: LANE_SCHEMA,
  crossovers: { frequenciesHz: [100, 4000] },
  stages: [
    { id: 'a', kind: 'stereo', settings: { widthsPercent: [0, 100, 150, 100, 100] } },
    { id: 'b', kind: 'bandDynamics', settings: { bands: [1, 2, 3, 4, 5].map((makeupDb) => ({ makeupDb })) } },
    { id: 'c', kind: 'trim', settings: { gainDb: 1 } },
  ],
});
const bandsOf = ({ stages }: Lane) => ({
  widths: stages[0].kind === 'stereo' ? stages[0].settings.widthsPercent : [],
  makeups: stages[1].kind === 'bandDynamics' ? stages[1].settings.bands.map(({ makeupDb }) => makeupDb) : [],
});

test('a split band gives its settings to both parts, in every band-wise stage', () => {
  const split = withBandSplit(lane, 1);
  expect(split.crossovers.frequenciesHz).toEqual([100, 632, 4000]);
  expect(bandsOf(split)).toEqual({ widths: [0, 100, 100, 150, 100], makeups: [1, 2, 2, 3, 4] });
  expect(split.stages[2]).toEqual(lane.stages[2]);
  expect(laneSchema.safeParse(split).success).toBe(true);
});

test('a crossover that is removed joins the upper band to the lower', () => {
  const joined = withCrossoverRemoved(lane, 0);
  expect(joined.crossovers.frequenciesHz).toEqual([4000]);
  expect(bandsOf(joined)).toEqual({ widths: [0, 150, 100, 100, 100], makeups: [1, 3, 4, 5, 0] });
  expect(withCrossoverRemoved(joined, 0)).toEqual(joined);
});

test('splitting ends at five bands and where there is no room', () => {
  const four = withBandSplit(withBandSplit(lane, 0), 2);
  expect(four.crossovers.frequenciesHz).toHaveLength(4);
  expect(splitFrequency(four.crossovers, 0)).toBeNull();
  expect(withBandSplit(four, 0)).toEqual(four);
  expect(splitFrequency({ phase: 'minimum', frequenciesHz: [1000, 1300] }, 1)).toBeNull();
});
