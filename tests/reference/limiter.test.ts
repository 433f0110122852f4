// Ceiling of the limiter by the method of ITU-R BS.1770 Annex 2 (within 0.05 dB) and by a 32x reference (within 0.2 dB).
import { aligned, throughLane } from '../support/core';
import { below, both, db, difference, join, noise, silence, sine, type Stereo } from '../support/signals';
import { annex2TruePeak, fineTruePeak } from '../support/true-peak';

const CEILING = -1;
const limiter = (settings: object = {}) => [{ kind: 'limiter', settings: { ceilingDbtp: CEILING, ...settings } }];

/** Signals in which peaks between the samples are worst or change fastest. */
function signals(rate: number): [string, Stereo][] {
  const frames = Math.round(rate * 0.5);
  const clicks = Float64Array.from({ length: frames }, (_, i) => (i % 997 === 0 ? 1 : i % 1499 === 0 ? -1 : 0));
  const square = Float64Array.from({ length: frames }, (_, i) => (Math.floor(i / 37) % 2 ? 1 : -1));
  const rise = join(sine(400, -40, 0.25, rate), sine(3000, 0, 0.25, rate));
  return [
    ['white noise', { left: noise(frames, 1, 3), right: noise(frames, 1, 4) }],
    ['noise below 0.45 fs', both(below(noise(frames, 1, 3), 0.45 * rate, rate))],
    ['clicks', both(clicks)],
    ['a square wave', both(square)],
    ['a tone at fs/4 between the samples', both(sine(rate / 4, 0, 0.5, rate, 45))],
    ['a tone at fs/3', both(sine(rate / 3, 0, 0.5, rate, 30))],
    ['a jump of 40 dB', both(rise)],
    ['a sweep', both(Float64Array.from({ length: frames }, (_, i) => Math.sin((Math.PI * 0.4 * i * i) / frames)))],
  ];
}

describe.each([44100, 96000, 192000])('at %i Hz', (rate) => {
  test.each(rate === 192000 ? [9] : [0, 6, 12])(
    'no true peak passes the ceiling with %i dB of input gain',
    (inputGainDb) => {
      for (const [name, signal] of signals(rate)) {
        const { left, right } = throughLane(signal, limiter({ inputGainDb }), rate);
        for (const side of [left, right]) {
          const over = db(annex2TruePeak(side)) - CEILING;
          if (over > 0.05) throw new Error(`${name} passes the ceiling by ${over} dB.`);
        }
        // White noise up to the Nyquist frequency is nothing that a file of music holds; Annex 2 must do for it.
        if (name === 'white noise') continue;
        const over = db(fineTruePeak(left.subarray(0, 8192))) - CEILING;
        if (over > 0.2) throw new Error(`${name} passes the ceiling by ${over} dB between the points of Annex 2.`);
      }
    },
  );
});

test('the ceiling holds for all looks ahead and recoveries', () => {
  for (const lookAheadMs of [1, 3, 10]) {
    for (const recoveryMs of [10, 1000]) {
      const { left } = throughLane(signals(44100)[0][1], limiter({ inputGainDb: 9, lookAheadMs, recoveryMs }), 44100);
      expect(db(annex2TruePeak(left))).toBeLessThan(CEILING + 0.05);
    }
  }
});

test('the gain recovers to 63 % in the recovery time', () => {
  const rate = 48000;
  const tone = (dbfs: number, seconds: number) => sine(1000, dbfs, seconds, rate);
  const signal = both(join(tone(5, 0.5), tone(-20, 1)));
  const { left } = aligned(signal, limiter({ ceilingDbtp: 0, recoveryMs: 200, lookAheadMs: 5 }), rate);
  // Gain after the loud part, read at the crests of the tone: it comes back from −5 dB.
  const crest = (seconds: number) => {
    const at = Math.round(seconds * rate);
    return left.subarray(at, at + 48).reduce((a, b) => Math.max(a, b), 0) / 10 ** (-20 / 20);
  };
  const low = 10 ** (-5 / 20);
  const reached = (crest(0.5 + 0.2) - low) / (1 - low);
  // The smoothing and the hold after a peak shift the curve by a few milliseconds.
  expect(reached).toBeGreaterThan(0.6);
  expect(reached).toBeLessThan(0.67);
});

test('what stays below the ceiling passes untouched, bit for bit', () => {
  const signal = { left: noise(20000, 0.3, 5), right: noise(20000, 0.3, 6) };
  const result = aligned(signal, limiter(), 44100);
  expect(difference(result.left, signal.left)).toBe(0);
  expect(difference(result.right, signal.right)).toBe(0);
});

test('both sides are turned down together', () => {
  const rate = 44100;
  const signal = { left: sine(500, 6, 0.5, rate), right: sine(500, -20, 0.5, rate) };
  const { left, right } = aligned(signal, limiter(), rate);
  const middle = (x: Float64Array) => x.subarray(10000, 12000).reduce((a, b) => Math.max(a, Math.abs(b)), 0);
  expect(db(middle(left) / middle(right))).toBeCloseTo(26, 2);
});

test('after denormal numbers the output is silence', () => {
  const signal = both(join(noise(4096, 1), new Float64Array(44100).fill(1e-310), silence(0.1, 44100)));
  const { left } = throughLane(signal, limiter({ inputGainDb: 12 }), 44100);
  expect(left.subarray(20000).every((x) => Math.abs(x) < 1e-300)).toBe(true);
});
