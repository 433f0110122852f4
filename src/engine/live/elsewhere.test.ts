import { db, noise } from '../../../tests/support/signals';
import { PLACES, type PlaceName } from '../../core/elsewhere/places';
import { placeResponse, type PlaceResponse } from '../../core/elsewhere/response';
import { Elsewhere } from './elsewhere';

const RATE = 44100;
const LATENCY = 512;
const QUANTA = 420;
const input = {
  left: Float32Array.from(noise(QUANTA * 128, 0.05, 3)),
  right: Float32Array.from(noise(QUANTA * 128, 0.05, 4)),
};

/** What is heard of the input, with things done at some quanta. */
function heard(elsewhere: Elsewhere, at: Record<number, () => void> = {}, signal = input) {
  const left = signal.left.slice();
  const right = signal.right.slice();
  for (let q = 0; q < left.length / 128; q++) {
    at[q]?.();
    elsewhere.process(left.subarray(q * 128, q * 128 + 128), right.subarray(q * 128, q * 128 + 128));
  }
  return { left, right };
}

/** One frame of what a place makes of the input, by the definition of convolution. */
function expected({ same, opposite }: PlaceResponse, frame: number): number {
  let sum = 0;
  for (let i = 0; i < same.length && i <= frame; i++)
    sum += same[i] * input.left[frame - i] + opposite[i] * input.right[frame - i];
  return sum;
}

test.each(Object.keys(PLACES) as PlaceName[])('%s nulls against its stated response', (name) => {
  const response = { ...placeResponse(PLACES[name], RATE), givesWay: null };
  const elsewhere = new Elsewhere(RATE);
  elsewhere.set(response);
  const { left } = heard(elsewhere);
  const frames = Array.from({ length: 60 }, (_, i) => QUANTA * 128 - 1 - 37 * i);
  let apart = 0;
  let level = 0;
  for (const frame of frames) {
    const value = expected(response, frame - LATENCY);
    apart = Math.max(apart, Math.abs(left[frame] - value));
    level = Math.max(level, Math.abs(value));
  }
  expect(db(apart / level)).toBeLessThan(-100);
});

test('without a place nothing is touched; leaving one gives the signal back as it was', () => {
  const elsewhere = new Elsewhere(RATE);
  expect(heard(elsewhere).left).toEqual(input.left);
  const { left } = heard(elsewhere, {
    0: () => elsewhere.set(placeResponse(PLACES.phone, RATE)),
    200: () => elsewhere.set(null),
  });
  expect(left.subarray(100 * 128, 110 * 128)).not.toEqual(input.left.subarray(100 * 128, 110 * 128));
  expect(left.subarray(230 * 128)).toEqual(input.left.subarray(230 * 128));
});

test('going from place to place, there and back, makes no click', () => {
  const tone = Float32Array.from({ length: QUANTA * 128 }, (_, i) => 0.3 * Math.sin((2 * Math.PI * 441 * i) / RATE));
  const elsewhere = new Elsewhere(RATE);
  const go = (name: PlaceName) => () => elsewhere.set(placeResponse(PLACES[name], RATE));
  const places = { 20: go('laptop'), 120: go('car'), 230: go('headphones'), 340: () => elsewhere.set(null) };
  const { left } = heard(elsewhere, places, { left: tone, right: tone });
  // What no smooth change of a tone has: its fourth difference, against that of the tone itself.
  const bend = (x: Float32Array, i: number) => Math.abs(x[i] - 4 * x[i - 1] + 6 * x[i - 2] - 4 * x[i - 3] + x[i - 4]);
  let most = 0;
  for (let i = 4; i < left.length; i++) most = Math.max(most, bend(left, i));
  expect(db(most / 0.3)).toBeLessThan(-75);
});

test('a tiny loudspeaker gives way softly: twice the level is less than twice as loud', () => {
  const peakOf = (gain: number) => {
    const elsewhere = new Elsewhere(RATE);
    elsewhere.set(placeResponse(PLACES.phone, RATE));
    const scaled = { left: input.left.map((x) => x * gain), right: input.right.map((x) => x * gain) };
    const { left } = heard(elsewhere, {}, scaled);
    return Math.sqrt(left.subarray(200 * 128).reduce((sum, x) => sum + x * x, 0));
  };
  expect(db(peakOf(2) / peakOf(1))).toBeLessThan(6);
  expect(db(peakOf(16) / peakOf(8))).toBeLessThan(3);
  expect(db(peakOf(0.02) / peakOf(0.01))).toBeCloseTo(6.02, 1);
});
