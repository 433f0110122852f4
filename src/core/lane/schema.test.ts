import { STAGE_KINDS } from '../stages/registry';
import { equalizerBand } from '../stages/equalizer/settings';
import { describe as describeQuantity } from '../stages/setting';
import { LANE_SCHEMA, newStage, parseLane, stageTitle } from './schema';

test('what a file leaves out gets its default', () => {
  const { stages } = parseLane({ schema: 1, stages: [{ id: 'a', kind: 'trim', settings: { gainDb: -6 } }] });
  expect(stages).toEqual([
    { id: 'a', kind: 'trim', on: true, settings: { gainDb: -6, linked: true, gainLeftDb: 0, gainRightDb: 0 } },
  ]);
});

test.each([
  [{ schema: LANE_SCHEMA + 1, stages: [] }, new RegExp(`another form than version ${LANE_SCHEMA}`)],
  [{ schema: 3, crossovers: { frequenciesHz: [900, 300] }, stages: [] }, /Crossovers must rise/],
  [
    { schema: 3, stages: [{ id: 'a', kind: 'room', settings: { response: 'file' } }] },
    /Choose the uploaded impulse response/,
  ],
  [{ schema: 1, stages: [{ id: 'a', kind: 'chorus', settings: {} }] }, /kind/],
  [{ schema: 1, stages: [{ id: 'a', kind: 'trim', settings: { gainDb: 99 } }] }, /Gain must be at most 24 dB/],
  [{ schema: 1, stages: [{ id: 'a', kind: 'trim', settings: { gain: 1 } }] }, /gain/],
  [{ schema: 1, stages: ['a', 'a'].map((id) => ({ id, kind: 'trim', settings: {} })) }, /same id/],
  [
    { schema: 1, stages: Array.from({ length: 13 }, (_, i) => ({ id: `${i}`, kind: 'trim', settings: {} })) },
    /at most 12/,
  ],
  [
    {
      schema: 4,
      stages: [{ id: 'a', kind: 'clipper', settings: { oversampling: { listening: 8, delivery: 4 } } }],
    },
    /Oversampling for delivery must not be lower than for listening/,
  ],
  [
    { schema: 4, stages: [{ id: 'a', kind: 'saturation', settings: { oversampling: { delivery: 3 } } }] },
    /For delivery must be one of 1, 2, 4, 8, 16/,
  ],
  [{ schema: 4, stages: [{ id: 'a', kind: 'saturation', settings: { bandDrivesDb: [1] } }] }, /settings for 5 bands/],
  ['nonsense', /can’t be read/],
])('%p is refused in words', (data, words) => {
  expect(() => parseLane(data)).toThrow(words);
});

test('a lane that was saved before bands could move is read, and its bands stand still', () => {
  const bands = [{ shape: 'bell', frequencyHz: 3400, gainDb: -6 }];
  const lane = parseLane({ schema: 1, stages: [{ id: 'a', kind: 'equalizer', settings: { bands } }] });
  expect(lane.schema).toBe(LANE_SCHEMA);
  expect(lane.stages[0].settings).toMatchObject({
    bands: [{ gainDb: -6, dynamics: null }],
    phase: 'minimum',
  });
});

test('a lane that was saved before it could be split has the crossovers of a new one', () => {
  const lane = parseLane({ schema: 2, stages: [] });
  expect(lane).toEqual({
    schema: LANE_SCHEMA,
    crossovers: { frequenciesHz: [160, 2500], phase: 'minimum' },
    stages: [],
  });
});

test('a new stage is a valid stage with a description for each of its settings', () => {
  for (const kind of STAGE_KINDS) {
    const stage = newStage(kind, 'x');
    expect(parseLane({ schema: LANE_SCHEMA, stages: [stage] }).stages).toEqual([stage]);
  }
  expect(describeQuantity(equalizerBand.shape.frequencyHz)).toMatchObject({ unit: 'Hz', min: 20, max: 20000 });
});

test('a stage may have a name, which older lanes lack; it is called by its kind otherwise', () => {
  const stage = { id: 'a', kind: 'limiter', settings: {} };
  const older = parseLane({ schema: 4, stages: [stage] });
  expect(older.schema).toBe(LANE_SCHEMA);
  expect(stageTitle(older.stages[0])).toBe('Limiter');
  const named = (name: string) => parseLane({ schema: LANE_SCHEMA, stages: [{ ...stage, name }] }).stages[0];
  expect(stageTitle(named(' Safety '))).toBe('Safety');
  expect(stageTitle(named(' '))).toBe('Limiter');
  expect(() => named('x'.repeat(25))).toThrow('A stage name can have up to 24 characters.');
});

test('a limiter that was saved before it had recoveries and links works as it did', () => {
  const saved = { inputGainDb: 4, ceilingDbtp: -0.5, lookAheadMs: 3, recoveryMs: 90 };
  const lane = parseLane({ schema: 3, stages: [{ id: 'a', kind: 'limiter', settings: saved }] });
  expect(lane.schema).toBe(LANE_SCHEMA);
  expect(lane.stages[0].settings).toEqual({
    ...saved,
    autoRecoveryPercent: 0,
    emphasisDb: 0,
    emphasisLowHz: 20,
    emphasisHighHz: 20000,
    detection: 'true4',
    linkPercent: 100,
    rejoinMs: 0,
    preLimited: false,
    preLimitDb: 0,
    preLimitRecoveryMs: 90,
    listenEven: false,
  });
});

test('a setting of an earlier schema that can’t be understood is refused under its own name', () => {
  const limiter = (settings: object) => ({ schema: 5, stages: [{ id: 'a', kind: 'limiter', settings }] });
  for (const settings of [{ recovery: 'constructor' }, { emphasis: 7 }, { recovery: null, emphasis: '__proto__' }])
    expect(() => parseLane(limiter(settings))).toThrow(/recovery|emphasis/);
  for (const odd of [{ schema: 5, stages: [null, 3] }, { schema: 5, stages: {} }, { schema: 0.5 }, { schema: -1 }])
    expect(() => parseLane(odd)).toThrow(/can’t be read/);
});
