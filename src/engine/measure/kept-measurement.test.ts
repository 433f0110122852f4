import { encode } from '@msgpack/msgpack';
import { EMPTY_LANE, newStage, type Lane } from '../../core/lane/schema';
import { LaneMeasurer } from './lane-measurer';
import { measurementKey, packMeasurement, unpackMeasurement } from './kept-measurement';
import type { Measurement, RenderedMeasurement } from './measurement';

const RATE = 48000;
const tone = Float32Array.from({ length: RATE * 2 }, (_, i) => 0.5 * Math.sin((2 * Math.PI * 997 * i) / RATE));
const lane: Lane = {
  ...EMPTY_LANE,
  stages: (['equalizer', 'stereo', 'bandDynamics', 'clipper', 'limiter'] as const).map((kind, i) =>
    newStage(kind, String(i)),
  ),
};
let measurement: RenderedMeasurement;
const KEY = 'ab'.repeat(32);

beforeAll(async () => {
  const measurer = new LaneMeasurer({ left: tone, right: new Float32Array(tone.length), sampleRate: RATE });
  measurement = await measurer.run(lane, { turn: () => Promise.resolve() });
});

test('a measurement comes back as it was, levels of −∞ and correlations of silence included, without its samples', () => {
  const { left: _left, right: _right, joints, ...rest } = measurement;
  const figures = {
    ...rest,
    joints: joints.map(({ integratedLufs, samplePeakDbfs, truePeakDbtp }) => ({
      ...{ integratedLufs, samplePeakDbfs, truePeakDbtp },
    })),
  };
  // A silent right channel has no level, and no correlation.
  expect(figures.master.samplePeaksDbfs[1]).toBe(-Infinity);
  expect([...figures.images[1]!.before.correlation]).toContainEqual(NaN);
  expect(unpackMeasurement(packMeasurement({ key: KEY, measurement })!)).toEqual({ key: KEY, measurement: figures });
});

test('what is not a measurement is refused', () => {
  const bytes = packMeasurement({ key: KEY, measurement })!;
  expect(() => unpackMeasurement(bytes.subarray(0, bytes.length - 3))).toThrow();
  expect(() => unpackMeasurement(encode({ key: KEY, measurement: { joints: [] } }))).toThrow();
  expect(() => unpackMeasurement(new TextEncoder().encode('{"key":"x"}'))).toThrow();
  const lacking: Measurement = { ...measurement, gainReduction: [] };
  expect(() => packMeasurement({ key: KEY, measurement: lacking })).toThrow('do not match');
});

test('the key follows what sounds, and nothing else', async () => {
  const key = await measurementKey('mix', lane);
  const [first, ...others] = lane.stages;
  expect(key).toMatch(/^[0-9a-f]{64}$/);
  expect(await measurementKey('mix', { ...lane, stages: [{ ...first, id: 'renamed' }, ...others] })).toBe(key);
  expect(await measurementKey('mix', { ...lane, stages: [{ ...first, on: false }, ...others] })).not.toBe(key);
  expect(await measurementKey('mix 2', lane)).not.toBe(key);
});
