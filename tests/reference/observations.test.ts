import { music } from '../support/music';
import { sine } from '../support/signals';
import { LaneMeasurer } from '@/engine/measure/lane-measurer';
import { TRACE_FRAMES } from '@/engine/measure/measurement';
import { LANE_SCHEMA, MAX_STAGES, parseLane, type Lane } from '@/core/lane/schema';
import type { ObservationKind, ObservedMaster } from '@/core/draft/observations/observation';
import { observe } from '@/core/draft/observations/observe';

const RATE = 44100;
const SECONDS = 8;
const LOUDEST = { start: 2 * RATE, end: 6 * RATE };

const clean = music(SECONDS, RATE, 0.25);
const bass = sine(60, -8, SECONDS, RATE);
/** The same music with a loud bass, by how much of it is in the right channel. */
const withBass = (right: number) => ({
  left: clean.left.map((x, i) => 0.5 * x + bass[i]),
  right: clean.right.map((x, i) => 0.5 * x + right * bass[i]),
});
const MIXES = { clean, bassy: withBass(1), wide: withBass(0) };
const measurers = new Map<string, LaneMeasurer>();

/** A lane over a mix, as it is measured on a page. */
async function master(mix: keyof typeof MIXES, lane: Lane): Promise<ObservedMaster> {
  const { left, right } = MIXES[mix];
  const audio = { left: Float32Array.from(left), right: Float32Array.from(right), sampleRate: RATE };
  const measurer = measurers.get(mix) ?? new LaneMeasurer(audio, { loudest: LOUDEST });
  measurers.set(mix, measurer);
  const measured = await measurer.run(lane, { turn: () => Promise.resolve(), output: null });
  return { ...measured, lane, sampleRate: RATE, loudest: LOUDEST, traceFrames: TRACE_FRAMES, encodes: [] };
}

const laneOf = (...stages: { kind: string; settings?: object; on?: boolean }[]) =>
  parseLane({ schema: LANE_SCHEMA, stages: stages.map((stage, i) => ({ id: `${i}`, settings: {}, ...stage })) });
const bell = (frequencyHz: number, gainDb: number, q = 1) => ({
  kind: 'equalizer',
  settings: { bands: [{ shape: 'bell', frequencyHz, gainDb, q }] },
});
const limiter = (settings: object) => ({ kind: 'limiter', settings });

test.each<[string, keyof typeof MIXES, Lane]>([
  ['an empty lane', 'clean', laneOf()],
  ['a small move and a limiter that only guards', 'clean', laneOf(bell(3000, 1.5), limiter({}))],
  [
    'a trim and some limiting',
    'bassy',
    laneOf({ kind: 'trim', settings: { gainDb: -3 } }, limiter({ inputGainDb: 3 })),
  ],
  ['stages that are off', 'clean', laneOf({ kind: 'equalizer', on: false }, { ...bell(100, 12), on: false })],
])('nothing is observed in %s', async (_, mix, lane) => {
  expect(observe(await master(mix, lane))).toEqual([]);
});

test.each<[ObservationKind, string[], keyof typeof MIXES, Lane]>([
  ['limiting', ['0'], 'clean', laneOf(limiter({ inputGainDb: 14, recoveryMs: 300 }))],
  ['rattle', ['0'], 'bassy', laneOf(limiter({ inputGainDb: 9, recoveryMs: 5, lookAheadMs: 1 }))],
  ['wideBass', [], 'wide', laneOf(bell(3000, 1))],
  ['wideBass', ['0'], 'wide', laneOf({ kind: 'stereo', settings: { midSideDb: -0.5 } })],
  ['loudness', ['0'], 'clean', laneOf(bell(300, 9, 0.4))],
  ['idle', ['0'], 'clean', laneOf({ kind: 'equalizer' })],
  ['idle', ['1'], 'clean', laneOf(bell(3000, 1), { kind: 'trim' }, limiter({}))],
  [
    'cancelling',
    ['0', '2'],
    'clean',
    laneOf(bell(900, 2.5), { kind: 'trim', settings: { gainDb: -1 } }, bell(900, -2.5)),
  ],
])('%s of %j is found, and its remedy mends it', async (kind, stages, mix, lane) => {
  let observed = observe(await master(mix, lane));
  const first = observed.find((each) => each.kind === kind)!;
  expect(first.stages).toEqual(stages);
  expect(first.sentence).toMatch(/\d/);
  for (let presses = 0; presses < 6 && observed.some((each) => each.kind === kind); presses++) {
    lane = observed.find((each) => each.kind === kind)!.remedy!.apply(lane);
    // Saved, it is read again.
    expect(parseLane(lane)).toEqual(lane);
    observed = observe(await master(mix, lane));
  }
  expect(observed.filter((each) => each.kind === kind)).toEqual([]);
});

/** One limiter, with what it took in each block. */
const limited = (trace: number[]): ObservedMaster => ({
  ...{ lane: laneOf(limiter({})), sampleRate: RATE, loudest: { start: 0, end: 3 * TRACE_FRAMES } },
  ...{ traceFrames: TRACE_FRAMES, gainReduction: [Float32Array.from(trace)], distortions: [null], spectra: [null] },
  ...{ joints: [0, 1].map(() => ({ integratedLufs: -14, truePeakDbtp: -1 })), passageBalance: null, encodes: [] },
});

test('a limiter may take 3 dB in the loudest passage, and more elsewhere', () => {
  expect(observe(limited([3, 2.9, 1, 9]))).toEqual([]);
  const [found] = observe(limited([1, 3.125, 1, 9]));
  expect(found).toMatchObject({ kind: 'limiting', seconds: TRACE_FRAMES / RATE });
  expect(found.sentence).toContain('up to 3.1 dB');
  // Rounded up, so that it is enough.
  expect(found.remedy!.label).toBe('Input gain −0.2 dB');
});

test('a limiter whose input can’t be lowered that far has no remedy', () => {
  const master = limited([20, 0, 0]);
  expect(observe({ ...master, lane: laneOf(limiter({ inputGainDb: -12 })) })[0]).toMatchObject({ remedy: null });
});

test('a compressor that makes the track quieter gets its makeup back', async () => {
  const lane = laneOf({ kind: 'compressor', settings: { thresholdDbfs: -40, ratio: 4 } });
  const [found] = observe(await master('clean', lane));
  expect(found).toMatchObject({ kind: 'loudness', stages: ['0'], remedy: { label: 'Auto makeup on' } });
  expect(found.sentence).toMatch(/makes the track \d+\.\d LU quieter by itself/);
  // Where its makeup is at the end of its range already, there is nothing to press.
  const held = {
    ...lane,
    stages: [{ ...lane.stages[0], settings: { ...lane.stages[0].settings, makeupMatched: true } }],
  };
  expect(observe(await master('clean', held as Lane))[0]).toMatchObject({ kind: 'loudness', remedy: null });
});

test('a full lane is offered no trim', () => {
  const full = laneOf(bell(300, 9, 0.4), ...Array.from({ length: MAX_STAGES - 1 }, () => limiter({})));
  const none = full.stages.map(() => null);
  const [before, after] = [-16, -14].map((integratedLufs) => ({ integratedLufs, truePeakDbtp: -1 }));
  const observed = observe({
    ...{ ...limited([0, 0, 0]), lane: full, gainReduction: none, distortions: none, spectra: none },
    joints: [before, ...full.stages.map(() => after)],
  });
  expect(observed).toMatchObject([{ kind: 'loudness', stages: ['0'], remedy: null }]);
});

test('an encode over its limit is told with its place, and the ceiling that was found for it', () => {
  const master = limited([0, 0, 0]);
  const encode = { name: 'AAC, 256 kb/s', limitDbtp: -1, seconds: 7.5 };
  const clearing = { stage: '0', ceilingDbtp: -1.6 };
  const over = (truePeakDbtp: number, more: object = {}) =>
    observe({ ...master, encodes: [{ ...encode, truePeakDbtp, clearing, ...more }] });
  expect(over(-1)).toEqual([]);
  const [found] = over(-0.4);
  expect(found).toMatchObject({ kind: 'encode', stages: ['0'], seconds: 7.5, remedy: { label: 'Ceiling −1.6 dBTP' } });
  expect(found.remedy!.apply(master.lane).stages[0].settings).toMatchObject({ ceilingDbtp: -1.6 });
  // That limiter is gone meanwhile, or none was found.
  expect(over(-0.4, { clearing: { ...clearing, stage: 'gone' } })[0]).toMatchObject({ stages: [], remedy: null });
  expect(over(-0.4, { clearing: null })[0]).toMatchObject({ remedy: null });
});
