import { db, difference, sine } from '../../../tests/support/signals';
import { LaneProcessor } from '../../core/lane/processor';
import { LANE_SCHEMA, parseLane, type Lane } from '../../core/lane/schema';
import { makeTaps } from './protocol';
import { StageTap } from './stage-tap';

const RATE = 44100;
const QUANTUM = 128;
const FRAMES = 4096;
const options = { sampleRate: RATE, maxFrames: QUANTUM, meterHops: 0 };
const laneOf = (...stages: object[]): Lane =>
  parseLane({ schema: LANE_SCHEMA, stages: stages.map((stage, i) => ({ id: `${i}`, ...stage })) });
const PARTED = { kind: 'saturation', settings: { driveDb: 0, split: 'bands' } };
const LIMITER = { kind: 'limiter', settings: {} };

/** Plays two quiet tones through a lane with a stage tapped; what is before and after it, in time with each other. */
function tapped(lane: Lane, stage: number, change?: (tap: StageTap) => void) {
  const taps = makeTaps();
  const processor = new LaneProcessor(lane, options);
  const tap = new StageTap(RATE, taps, lane, (linear) => new LaneProcessor(linear, options));
  tap.choose(stage);
  change?.(tap);
  const seconds = (60 * QUANTUM) / RATE;
  const high = sine(6000, -60, seconds, RATE);
  const x = sine(300, -60, seconds, RATE).map((value, i) => value + high[i]);
  for (let at = 0; at < x.length; at += QUANTUM) {
    processor.left.set(x.subarray(at, at + QUANTUM));
    processor.right.set(x.subarray(at, at + QUANTUM));
    processor.process(QUANTUM, (joint) => tap.take(processor, joint));
  }
  const lead = tap.lead(processor);
  const end = taps.written[0];
  const before = Float64Array.from(taps.before.subarray(end - lead - FRAMES, end - lead));
  const after = Float64Array.from(taps.after.subarray(end - FRAMES, end));
  const size = Math.sqrt(before.reduce((sum, value) => sum + value * value, 0) / FRAMES);
  const gain = before.reduce((sum, value, i) => sum + value * after[i], 0) / (size * size * FRAMES);
  return {
    lead,
    apartDb: db(
      difference(
        after,
        before.map((value) => value * gain),
      ) / size,
    ),
  };
}

test('a stage that is late alone leads by its latency', () => {
  const { lead, apartDb } = tapped(laneOf(LIMITER), 0);
  expect(lead).toBe(new LaneProcessor(laneOf(LIMITER), options).latency);
  expect(apartDb).toBeLessThan(-100);
});

test('what crossovers turn is turned on both sides of the tap', () => {
  const { lead, apartDb } = tapped(laneOf(LIMITER, PARTED), 1);
  expect(lead).toBe(0);
  expect(apartDb).toBeLessThan(-55);
});

test('the tap follows another stage, and changes of the lane', () => {
  const lane = laneOf(LIMITER, PARTED);
  expect(tapped(lane, 1, (tap) => tap.choose(0)).lead).toBeGreaterThan(0);
  const whole = laneOf(LIMITER, { ...PARTED, settings: { driveDb: 0 } });
  // Back to bands, by a change of the lane alone.
  const { lead, apartDb } = tapped(whole, 1, (tap) => {
    tap.follow(lane);
    tap.follow(whole);
  });
  expect(lead).toBe(new LaneProcessor(laneOf(PARTED), options).latency);
  expect(apartDb).toBeLessThan(-55);
});
