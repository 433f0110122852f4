import { sine } from '../../../tests/support/signals';
import { LaneProcessor } from '../../core/lane/processor';
import { LANE_SCHEMA, parseLane } from '../../core/lane/schema';
import { INSTRUMENT_FRAMES, Instruments, makeInstrumentRing } from './instruments';

const RATE = 48000;
const tone = sine(1000, -18, 4, RATE);
const lane = (...stages: object[]) =>
  new LaneProcessor(parseLane({ schema: LANE_SCHEMA, stages: stages.map((stage, i) => ({ id: `${i}`, ...stage })) }), {
    sampleRate: RATE,
    maxFrames: 128,
    meterHops: 0,
  });

/** Runs a lane on a tone, the right channel 6 dB below, with instruments at a joint. */
function run(processor: LaneProcessor, instruments: Instruments, seconds: number): void {
  for (let at = 0; at + 128 <= seconds * RATE; at += 128) {
    processor.left.set(tone.subarray(at, at + 128));
    processor.right.set(tone.subarray(at, at + 128).map((x) => x / 2));
    processor.process(128, (joint) => instruments.take(processor, joint, 1));
  }
}

test('a joint before and one after a trim read what is there, both channels by themselves', () => {
  const processor = () => lane({ kind: 'trim', settings: { gainDb: -6 } });
  for (const [joint, level] of [
    [0, -18],
    [1, -24],
  ]) {
    const instruments = new Instruments(RATE, makeInstrumentRing(), joint);
    run(processor(), instruments, 2);
    const { vuDbfs, ppmDbfs } = instruments.reading();
    expect(vuDbfs[0]).toBeCloseTo(level, 1);
    expect(vuDbfs[1]).toBeCloseTo(level - 6.02, 1);
    expect(ppmDbfs[0]).toBeCloseTo(level, 0);
  }
});

test('before a stage that is late the needles wait until it is heard; the ring has it at once', () => {
  const processor = lane({ kind: 'limiter', settings: { lookAheadMs: 5 } });
  const ring = makeInstrumentRing();
  const instruments = new Instruments(RATE, ring, 0);
  const { latency } = processor;
  expect(latency).toBeGreaterThan(200);
  const quanta = Math.floor(latency / 128);
  run(processor, instruments, (quanta * 128) / RATE);
  expect(instruments.reading().ppmDbfs[0]).toBe(-Infinity);
  expect(Math.max(...ring.mid.subarray(0, quanta * 128))).toBeGreaterThan(0.05);
  expect(instruments.reading().lead).toBe(latency);
});

test('of the lane, what is heard is at the joint that is', () => {
  const instruments = new Instruments(RATE, makeInstrumentRing(), 'heard');
  run(lane({ kind: 'trim', settings: { gainDb: -6 } }), instruments, 2);
  expect(instruments.reading().vuDbfs[0]).toBeCloseTo(-24, 1);
});

test('what is heard is measured where that is chosen, and another choice starts over', () => {
  const ring = makeInstrumentRing();
  const instruments = new Instruments(RATE, ring, 'heard');
  const quantum = Float32Array.from(tone.subarray(0, 128));
  for (let i = 0; i < 2000; i++) instruments.takeHeard(quantum, quantum);
  expect(instruments.reading().ppmDbfs[0]).toBeGreaterThan(-19);
  expect(ring.written[0]).toBe(2000 * 128);
  expect(2000 * 128).toBeGreaterThan(INSTRUMENT_FRAMES);
  instruments.choose(1, 'II');
  expect(instruments.reading().ppmDbfs[0]).toBe(-Infinity);
  instruments.takeHeard(quantum, quantum);
  expect(instruments.reading().ppmDbfs[0]).toBe(-Infinity);
});
