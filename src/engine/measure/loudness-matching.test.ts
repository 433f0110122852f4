import { noise, sine } from '../../../tests/support/signals';
import { parseLane, LANE_SCHEMA, type Lane } from '../../core/lane/schema';
import { atLoudness, EQUAL_LU } from './loudness-matching';
import { LaneMeasurer } from './lane-measurer';
import { gainStaging, gainStagingTable, punchTaker } from './gain-staging';

const RATE = 44100;
// A pulse of noise each half second over a tone: something that has peaks to lose.
const hiss = noise(6 * RATE, 1);
const left = Float32Array.from(sine(110, -20, 6, RATE), (x, i) => x + 0.5 * hiss[i] * Math.exp(-(i % 22050) / 1500));
const audio = { left, right: left, sampleRate: RATE };
const calm = { turn: () => Promise.resolve() };
const laneOf = (...stages: { kind: string; on?: boolean; settings: object }[]): Lane =>
  parseLane({ schema: LANE_SCHEMA, stages: stages.map((stage, i) => ({ id: `${i}`, ...stage })) });

const WAYS: [string, Lane, string][] = [
  ['a limiter', laneOf({ kind: 'limiter', settings: {} }), 'Limiter'],
  [
    'a clipper, then a limiter',
    laneOf({ kind: 'clipper', settings: { ceilingDbfs: -3 } }, { kind: 'limiter', settings: {} }),
    'Clipper',
  ],
  [
    'a compressor alone',
    laneOf({ kind: 'compressor', settings: { thresholdDbfs: -24, ratio: 3, attackMs: 1 } }),
    'Compressor',
  ],
  ['nothing', laneOf({ kind: 'limiter', on: false, settings: {} }), 'Trim'],
];

test.each(WAYS)('%s reaches a loudness within 0.1 LU', async (_, lane, stage) => {
  const measurer = new LaneMeasurer(audio);
  const version = await atLoudness(lane, -14, (tried) => measurer.run(tried, calm));
  expect(version.reached).toBe(true);
  expect(Math.abs(version.integratedLufs + 14)).toBeLessThan(EQUAL_LU);
  expect(version.drivenStage).toContain(stage);
  expect(version.plrLu).toBeCloseTo(version.truePeakDbtp - version.integratedLufs, 6);
  // What is told is what the lane that comes back gives.
  const again = await new LaneMeasurer(audio).run(version.lane, calm);
  expect(again.master.integratedLufs).toBeCloseTo(version.integratedLufs, 6);
});

test('a loudness that cannot be reached is told as such', async () => {
  const measurer = new LaneMeasurer(audio);
  const lane = laneOf({ kind: 'limiter', settings: { ceilingDbtp: -12 } });
  const version = await atLoudness(lane, -3, (tried) => measurer.run(tried, calm));
  expect(version.reached).toBe(false);
});

test('more level through a limiter is shown as punch that it took', async () => {
  const lane = laneOf(
    { kind: 'trim', settings: { gainDb: 6 } },
    { kind: 'saturation', settings: { mixPercent: 0 } },
    { kind: 'limiter', settings: { inputGainDb: 12 } },
  );
  const result = await new LaneMeasurer(audio).run(lane, calm);
  const rows = gainStaging(lane, result, RATE);
  expect(rows.map(({ stage }) => stage)).toEqual(['Trim', 'Saturation', 'Limiter']);
  expect(rows[0].loudnessLu).toBeCloseTo(6, 2);
  expect(rows[0].plrLu).toBeCloseTo(0, 2);
  expect(rows[0].latencyMs).toBe(0);
  expect(rows[1].oversampling).toEqual({ listening: 2, delivery: 4, phase: 'linear' });
  expect(rows[1].latencyMs).toBeCloseTo((1000 * 65) / RATE, 6);
  expect(rows[2].plrLu).toBeLessThan(-2);
  expect(punchTaker(rows)).toBe(rows[2]);
  expect(punchTaker(rows.slice(0, 2))).toBeNull();
  const [head, ...table] = gainStagingTable(rows);
  expect(table).toHaveLength(3);
  expect(table.every((row) => row.length === head.length)).toBe(true);
  expect(table[0][head.indexOf('Loudness change LU')]).toBe('6.00');
  expect(table[2][head.indexOf('Oversampling delivery')]).toBe('');
});
