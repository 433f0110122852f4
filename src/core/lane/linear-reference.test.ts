import { db, difference, noise } from '../../../tests/support/signals';
import { LANE_SCHEMA, parseLane, type Lane, type Stage } from './schema';
import { LaneProcessor } from './processor';
import { linearReference } from './linear-reference';

const RATE = 44100;
const BLOCK = 1024;
const QUIET = 5e-4;
const x = noise(40 * BLOCK, 0.2);

function lane(stage: object, phase: 'minimum' | 'linear' = 'minimum'): Lane {
  const crossovers = { frequenciesHz: [200, 3000], phase };
  return parseLane({ schema: LANE_SCHEMA, crossovers, stages: [{ id: 'a', ...stage }] });
}

/** White noise at a level through a lane, brought back to the level of the noise. */
function through(stages: Stage[], crossovers: Lane['crossovers'], level: number): Float64Array {
  const processor = new LaneProcessor({ stages, crossovers }, { sampleRate: RATE, maxFrames: BLOCK, meterHops: 0 });
  const out = new Float64Array(x.length);
  for (let at = 0; at < x.length; at += BLOCK) {
    const block = x.subarray(at, at + BLOCK).map((value) => value * level);
    processor.left.set(block);
    processor.right.set(block);
    processor.process(BLOCK);
    out.set(
      processor.left.map((value) => value / level),
      at,
    );
  }
  return out;
}

const level = (signal: Float64Array) => Math.sqrt(signal.reduce((sum, value) => sum + value * value, 0));
const saturation = (settings: object) => ({ kind: 'saturation', settings: { driveDb: 0, ...settings } });

// So quiet that no curve bends it and no ceiling is near, and loud enough for f32 around a bias, a stage does nothing else
// than what remains when it is straight.
test.each([
  ['saturation by bands', saturation({ split: 'bands' })],
  ['saturation with even harmonics', saturation({ curve: 'even' })],
  ['saturation off the middle', saturation({ biasPercent: 40 })],
  ['saturation with tones of its own', saturation({ toneUndone: false, toneBeforeDb: 3, toneAfterDb: 2 })],
  ['saturation of minimum latency', saturation({ oversampling: { phase: 'least' } })],
  ['a clipper of minimum latency', { kind: 'clipper', settings: { oversampling: { phase: 'least' }, inputGainDb: 3 } }],
  ['a limiter that limits bands first', { kind: 'limiter', settings: { preLimited: true, inputGainDb: 3 } }],
])('%s is straight where nothing is bent', (_, stage) => {
  const { stages, crossovers } = lane(stage);
  const straight = linearReference(stages[0], crossovers)!;
  const out = through(stages, crossovers, QUIET);
  const twin = through([straight], crossovers, QUIET);
  // What is left are the filters' beginnings and f32.
  const gain = level(twin) / level(out);
  expect(
    db(
      difference(
        out.map((value) => value * gain),
        twin,
      ),
    ) - db(level(x) / Math.sqrt(x.length)),
  ).toBeLessThan(-60);
  // And it does something besides being late, or there would be no need of it.
  const late = new LaneProcessor({ stages, crossovers }, { sampleRate: RATE, maxFrames: BLOCK, meterHops: 0 }).latency;
  expect(db(difference(twin.subarray(late), x.subarray(0, x.length - late)))).toBeGreaterThan(-45);
});

test.each([
  ['saturation as it begins', saturation({}), 'minimum'],
  ['saturation by bands of linear phase', saturation({ split: 'bands' }), 'linear'],
  ['a clipper of linear phase', { kind: 'clipper', settings: {} }, 'minimum'],
  ['a limiter of the whole signal', { kind: 'limiter', settings: {} }, 'minimum'],
  ['a limiter by bands of linear phase', { kind: 'limiter', settings: { preLimited: true } }, 'linear'],
  ['a compressor', { kind: 'compressor', settings: {} }, 'minimum'],
] as const)('%s needs nothing to be compared with but what went in', (_, stage, phase) => {
  const { stages, crossovers } = lane(stage, phase);
  expect(linearReference(stages[0], crossovers)).toBeNull();
});

test('however hard it is driven, a linear reference adds no distortion', () => {
  const { stages, crossovers } = lane(saturation({ split: 'bands', driveDb: 30, bandDrivesDb: [6, 0, 6, 0, 0] }));
  const straight = linearReference(stages[0], crossovers)!;
  const quiet = through([straight], crossovers, 1e-3);
  expect(db(difference(through([straight], crossovers, 1), quiet))).toBeLessThan(-75);
  expect(db(difference(through(stages, crossovers, 1), quiet))).toBeGreaterThan(-40);
});
