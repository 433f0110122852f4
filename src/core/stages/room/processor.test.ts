import { aligned, throughLane } from '../../../../tests/support/core';
import { both, db, difference, noise, type Stereo } from '../../../../tests/support/signals';
import { bandSections } from '../equalizer/design';
import { equalizerBand } from '../equalizer/settings';
import { BLOCK_FRAMES } from '../convolver';
import { synthesisedImpulse } from './synthesis';

const RATE = 44100;
const FRAMES = 16000;
const signal: Stereo = { left: noise(FRAMES, 0.3, 3), right: noise(FRAMES, 0.3, 4) };
const room = (settings: object) => [{ kind: 'room', settings }];
const OPEN = { preDelayMs: 0, highPassHz: 20, lowPassHz: 20000, wetDb: 0 };

function convolved(x: Float64Array, h: ArrayLike<number>): Float64Array {
  const y = new Float64Array(x.length);
  for (let i = 0; i < x.length; i++) {
    const last = Math.min(i, h.length - 1);
    for (let k = 0; k <= last; k++) y[i] += h[k] * x[i - k];
  }
  return y;
}
/** The filters of the wet sound, in direct form. */
function passed(x: Float64Array, highPassHz: number, lowPassHz: number): Float64Array {
  const bands = [
    equalizerBand.parse({ shape: 'highPass', frequencyHz: highPassHz }),
    equalizerBand.parse({ shape: 'lowPass', frequencyHz: lowPassHz }),
  ];
  return bands
    .flatMap((band) => bandSections(band, RATE))
    .reduce((input, { b0, b1, b2, a1, a2 }) => {
      const y = new Float64Array(input.length);
      for (let n = 0; n < input.length; n++)
        y[n] =
          b0 * input[n] +
          b1 * (input[n - 1] ?? 0) +
          b2 * (input[n - 2] ?? 0) -
          a1 * (y[n - 1] ?? 0) -
          a2 * (y[n - 2] ?? 0);
      return y;
    }, x);
}

test('is direct convolution with the response of each channel, beside the untouched sound', () => {
  const response = { left: Float32Array.from(noise(9000, 0.02, 8)), right: Float32Array.from(noise(9000, 0.02, 9)) };
  const options = { impulses: new Map([['mine', response]]) };
  const settings = { ...OPEN, impulse: 'file', file: 'mine', preDelayMs: 20 };
  const result = aligned(signal, room(settings), RATE, 1024, options);
  for (const channel of ['left', 'right'] as const) {
    const wet = passed(convolved(signal[channel], response[channel]), 20, 20000);
    const late = Math.round(0.02 * RATE);
    const expected = signal[channel].map((x, i) => x + (wet[i - late] ?? 0));
    expect(db(difference(result[channel], expected))).toBeLessThan(-200);
  }
});

test('the wet level, from −60 dB, which is off', () => {
  const wetOf = (settings: object) => {
    const { left } = aligned(signal, room({ ...OPEN, ...settings }), RATE);
    return left.map((x, i) => x - signal.left[i]);
  };
  const full = wetOf({});
  expect(
    db(
      difference(
        wetOf({ wetDb: -20 }),
        full.map((x) => x / 10),
      ),
    ),
  ).toBeLessThan(-200);
  expect(difference(wetOf({ wetDb: -60 }), new Float64Array(FRAMES))).toBe(0);
});

test('trails by one block of the convolution, and says so', () => {
  expect(throughLane(signal, room({}), RATE).latency).toBe(BLOCK_FRAMES);
});

test('a response that is not there is named', () => {
  const stages = room({ impulse: 'file', file: 'lost' });
  expect(() => throughLane(signal, stages, RATE)).toThrow(/“lost” is missing: upload it again/);
});

test.each(['studio', 'hall'] as const)(
  'the synthesised %s is a decaying room of unit energy, different on both channels',
  (name) => {
    for (const rate of [44100, 96000]) {
      const { left, right } = synthesisedImpulse(name, rate);
      const energy = (x: Float32Array, from = 0, to = 10) =>
        x.subarray(from * rate, to * rate).reduce((sum, v) => sum + v * v, 0);
      expect(energy(left)).toBeCloseTo(1, 4);
      expect(energy(right)).toBeCloseTo(1, 4);
      expect(Math.abs(left.reduce((sum, v, i) => sum + v * right[i], 0))).toBeLessThan(0.15);
      // Reverberation time from the fall of the tail.
      const [a, b] = name === 'hall' ? [0.3, 0.8] : [0.1, 0.2];
      const fall = 10 * Math.log10(energy(left, a, a + 0.05) / energy(left, b, b + 0.05));
      expect((60 * (b - a)) / fall / (name === 'hall' ? 1.8 : 0.36)).toBeGreaterThan(0.5);
      expect((60 * (b - a)) / fall / (name === 'hall' ? 1.8 : 0.36)).toBeLessThan(1.5);
    }
  },
);

test('plays the longest response that can be put in', () => {
  const taps = new Float32Array(10 * RATE);
  taps[0] = 1;
  taps[taps.length - 1] = 0.5;
  const options = { impulses: new Map([['long', { left: taps, right: taps }]]) };
  const click = both(new Float64Array(11 * RATE));
  click.left[0] = 1;
  click.right[0] = 1;
  const { left } = aligned(click, room({ ...OPEN, impulse: 'file', file: 'long' }), RATE, 1024, options);
  const late = left.subarray(9.9 * RATE).reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  expect(late).toBeGreaterThan(0.3);
});
