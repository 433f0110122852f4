import { join, silence, sine } from '../../../tests/support/signals';
import { sourceLevel } from './source-level';

const RATE = 48000;
const audio = (samples: Float64Array) => {
  const channel = Float32Array.from(samples);
  return { left: channel, right: channel, sampleRate: RATE };
};

test('a stretch has the loudness of what is in it (997 Hz on both sides reads its level: ITU-R BS.1770-4)', () => {
  const two = audio(join(sine(997, -23, 5, RATE), sine(997, -43, 5, RATE)));
  expect(sourceLevel(two, { start: 0, end: 5 * RATE }).integratedLufs).toBeCloseTo(-23, 1);
  expect(sourceLevel(two, { start: 5 * RATE, end: 10 * RATE }).integratedLufs).toBeCloseTo(-43, 1);
  // The relative gate leaves the quieter half out.
  expect(sourceLevel(two, { start: 0, end: 10 * RATE }).integratedLufs).toBeCloseTo(-23.1, 0);
});

test('a stretch that reaches beyond the source, or is too short for one block, still has an answer', () => {
  const one = audio(sine(997, -20, 8, RATE));
  expect(sourceLevel(one, { start: 0, end: 60 * RATE }).integratedLufs).toBeCloseTo(-20.1, 0);
  expect(sourceLevel(one, { start: 0, end: 1000 }).integratedLufs).toBe(-Infinity);
  expect(sourceLevel(audio(silence(1, RATE)), { start: 0, end: RATE }).truePeakDbtp).toBe(-Infinity);
});

test('the true peak lies between the samples (a quarter of the rate at 45° hides 3.01 dB)', () => {
  const hidden = audio(sine(RATE / 4, -6.02, 1, RATE, Math.PI / 4));
  expect(sourceLevel(hidden, { start: 4800, end: 40000 }).truePeakDbtp).toBeCloseTo(-6.02, 1);
});
