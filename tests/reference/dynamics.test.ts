import { compressorDesign } from '@/core/stages/compressor/design';
import { compressorSettings } from '@/core/stages/compressor/settings';
import { staticReduction } from '@/core/stages/dynamics';
import { aligned, throughLane } from '../support/core';
import { both, db, join, sine } from '../support/signals';
import { spectrumOf } from '../support/spectrum';

const RATE = 48000;
const HARD = { kneeDb: 0, attackMs: 1, releaseMs: 3000 };
const compressor = (settings: object) => [{ kind: 'compressor', settings }];
const constant = (dbfs: number, seconds: number) =>
  new Float64Array(Math.round(seconds * RATE)).fill(10 ** (dbfs / 20));
/** Gain in dB at each frame of a signal that is never zero. */
const gainOf = (signal: Float64Array, settings: object) =>
  aligned(both(signal), compressor(settings), RATE).left.map((y, i) => db(y / signal[i]));
/** Level in dBFS (peak) that comes out of a steady tone. */
const steady = (dbfs: number, settings: object) => {
  const { left } = aligned(both(sine(1000, dbfs, 1, RATE)), compressor(settings), RATE);
  return db(left.subarray(RATE / 2).reduce((most, x) => Math.max(most, Math.abs(x)), 0));
};
const LEFT = 1 - Math.exp(-1);

describe('static curve (Giannoulis, Massberg, Reiss, JAES 2012; from memory)', () => {
  test('4:1 at −20 dBFS makes −17 of −8', () => {
    expect(steady(-8, { ...HARD, thresholdDbfs: -20, ratio: 4 })).toBeCloseTo(-17, 1);
  });

  test('10:1 and beyond limits', () => {
    expect(steady(-5, { ...HARD, thresholdDbfs: -20, ratio: 10 })).toBeCloseTo(-18.5, 1);
    expect(steady(-5, { ...HARD, thresholdDbfs: -20, ratio: 100 })).toBeCloseTo(-20, 1);
  });

  test.each([-40, -24, -22, -20, -18, -16, -6])('a soft knee at %i dBFS', (level) => {
    // y = x + (1/R − 1)(x − T + W/2)² / 2W within the knee.
    const [threshold, ratio, knee] = [-20, 3, 8];
    const over = level - threshold;
    const expected =
      2 * over < -knee
        ? level
        : 2 * Math.abs(over) <= knee
          ? level + ((1 / ratio - 1) * (over + knee / 2) ** 2) / (2 * knee)
          : threshold + over / ratio;
    const settings = { ...HARD, thresholdDbfs: threshold, ratio, kneeDb: knee };
    expect(steady(level, settings)).toBeCloseTo(expected, 1);
    const design = compressorDesign(compressorSettings.parse(settings), RATE);
    expect(level - staticReduction(design, level)).toBeCloseTo(expected, 10);
  });

  test('the mean-square detector reads a tone as its peak, and a square 3 dB higher', () => {
    const rms = { ...HARD, detector: 'rms', thresholdDbfs: -20, ratio: 4 };
    expect(steady(-8, rms)).toBeCloseTo(-17, 1);
    const square = gainOf(constant(-8, 0.5), rms);
    expect(square[RATE / 2 - 1]).toBeCloseTo(-(12 + 3.01) * 0.75, 1);
  });

  test('range holds the reduction; makeup and dry/wet add up', () => {
    expect(steady(-8, { ...HARD, thresholdDbfs: -20, ratio: 100, rangeDb: 5 })).toBeCloseTo(-13, 1);
    expect(steady(-8, { ...HARD, thresholdDbfs: -20, ratio: 4, makeupDb: 3 })).toBeCloseTo(-14, 1);
    const parallel = -8 + db(0.5 + 0.5 * 10 ** (-9 / 20));
    expect(steady(-8, { ...HARD, thresholdDbfs: -20, ratio: 4, mixPercent: 50 })).toBeCloseTo(parallel, 1);
  });
});

describe('times: to 63 % of a step', () => {
  const settings = { thresholdDbfs: -40, ratio: 4, kneeDb: 0, attackMs: 20, releaseMs: 100 };
  const rise = join(constant(-60, 0.05), constant(-20, 1));
  const start = 0.05 * RATE;
  const at = (gain: Float64Array, ms: number) => gain[Math.round(start + (ms * RATE) / 1000) - 1];

  test.each([-100, -60, -1, 0, 40, 100])('an onset of %i %% has done 63 % at the attack time', (onsetPercent) => {
    expect(at(gainOf(rise, { ...settings, onsetPercent }), 20)).toBeCloseTo(-15 * LEFT, 1);
  });

  test('a low onset lets the transient through, a high one catches it', () => {
    const after1ms = (onsetPercent: number) => at(gainOf(rise, { ...settings, onsetPercent }), 1) / -15;
    // One pole has done 1 − e^(−t/τ), two equal ones of τ/2.1462 have done 1 − (1 + x)·e^(−x), a share of 45 % comes at once.
    expect(after1ms(0)).toBeCloseTo(1 - Math.exp(-1 / 20), 2);
    const x = 2.1462 / 20;
    expect(after1ms(-100)).toBeCloseTo(1 - (1 + x) * Math.exp(-x), 2);
    expect(after1ms(100)).toBeCloseTo(0.45 + 0.55 * (1 - Math.exp((-1 / 20) * (1 + Math.log(0.55)))), 2);
  });

  test('the release falls by 63 % in its time', () => {
    const fall = join(constant(-20, 0.3), constant(-60, 1));
    const gain = gainOf(fall, { ...settings, attackMs: 0.02 });
    expect(gain[0.4 * RATE]).toBeCloseTo(-15 * Math.exp(-1), 1);
    expect(gain[0.5 * RATE]).toBeCloseTo(-15 * Math.exp(-2), 1);
  });

  test('automatic release is 2 · release / C², at most the release (JAES 2013; from memory)', () => {
    const auto = { ...settings, attackMs: 0.02, releaseMs: 400, autoRelease: true };
    const halfTime = (loudSeconds: number) => {
      const gain = gainOf(join(constant(-100, 1), constant(-20, loudSeconds), constant(-100, 1)), auto);
      const from = Math.round((1 + loudSeconds) * RATE);
      return (1000 * (gain.findIndex((g, i) => i >= from && g > -15 * Math.exp(-1)) - from)) / RATE;
    };
    expect(halfTime(2)).toBeCloseTo(400, -1);
    // Loud for a short time t after silence: the mean square over 200 ms has reached 1 − e^(−t/0.2) of the peak's.
    const crest = 1 / (1 - Math.exp(-0.01 / 0.2));
    expect(halfTime(0.01) / ((2 * 400) / crest)).toBeCloseTo(1, 1);
  });

  test('look-ahead begins earlier by its time', () => {
    const plain = gainOf(rise, { ...settings, onsetPercent: 100 });
    const ahead = gainOf(rise, { ...settings, onsetPercent: 100, lookAheadMs: 5 });
    const begins = (gain: Float64Array) => gain.findIndex((g) => g < -0.01);
    expect(begins(plain) - begins(ahead)).toBe(0.005 * RATE);
  });
});

describe('circuits, by the laws that their help states', () => {
  const SLOW = { thresholdDbfs: -40, ratio: 4, kneeDb: 0 };
  const step = join(constant(-60, 0.05), constant(-20, 1));

  test('feedback: times as many times quicker as the ratio, on the same static curve', () => {
    const gain = gainOf(step, { ...SLOW, circuit: 'fet', colourPercent: 0, attackMs: 20, releaseMs: 100 });
    expect(gain[Math.round((0.05 + 0.02 / 4) * RATE) - 1]).toBeCloseTo(-15 * LEFT, 1);
    expect(gain[RATE - 1]).toBeCloseTo(-15, 2);
  });

  test('FET: odd harmonics only, growing with the gain reduction, none without', () => {
    const harmonics = (dbfs: number, thresholdDbfs: number) => {
      const settings = { circuit: 'fet', thresholdDbfs, ratio: 4, kneeDb: 0, attackMs: 300, releaseMs: 3000 };
      const stages = compressor({ ...settings, colourPercent: 100 });
      const { left } = aligned(both(sine(750, dbfs, 2, RATE)), stages, RATE);
      const lines = spectrumOf(left.subarray(RATE, 2 * RATE), RATE);
      return [1, 2, 3, 4, 5].map((n) => lines(750 * n) - (n > 1 ? lines(750) : 0));
    };
    for (const [dbfs, threshold] of [
      [-6, -20],
      [-20, -40],
    ]) {
      const [first, second, third, fourth, fifth] = harmonics(dbfs, threshold);
      expect(Math.max(second, fourth)).toBeLessThan(-110);
      expect(fifth).toBeLessThan(third);
      // x · (1 − c · x²) of a sine of amplitude a has a third harmonic of c · a² / 4; c is 1 less the gain.
      const bend = 1 - 10 ** ((first - dbfs) / 20);
      expect(third).toBeCloseTo(db((bend * 10 ** (first / 10)) / 4), 0);
    }
    expect(harmonics(-6, 0)[2]).toBeLessThan(-110);
  });

  test('opto: half of the memory is let go of in the release, the rest ten times slower', () => {
    const opto = { ...SLOW, circuit: 'opto', attackMs: 0.02, releaseMs: 50 };
    const after = (loudSeconds: number, seconds: number) => {
      const gain = gainOf(join(constant(-60, 0.1), constant(-20, loudSeconds), constant(-60, 2)), opto);
      return gain[Math.round((0.1 + loudSeconds + seconds) * RATE) - 1];
    };
    // A memory of τ = 0.3 s is full after 3 s; 0.3 s later the quick half is gone.
    expect(after(3, 0.3)).toBeCloseTo(-7.5 * Math.exp(-0.3 / 0.5), 0);
    expect(after(3, 0.6) / after(3, 0.3)).toBeCloseTo(Math.exp(-0.3 / 0.5), 1);
    // After 10 ms it has hardly begun to remember: nearly all goes in the release.
    expect(after(0.01, 0.3)).toBeGreaterThan(-1.2);
  });

  test('variable mu: the ratio grows with the level', () => {
    const mu = { ...HARD, circuit: 'variableMu', thresholdDbfs: -40, ratio: 5, kneeDb: 10 };
    const outputs = [-50, -40, -35, -30, -20, -10].map((level) => steady(level, mu));
    [-50, -40, -35, -30, -20, -10].forEach((level, i) => {
      const over = Math.max(0, level + 40);
      expect(outputs[i]).toBeCloseTo(level - (0.8 * over * over) / (over + 10), 1);
    });
    // dB in for one dB out: a little over 1 at first, towards 5 above.
    expect(5 / (outputs[2] - outputs[1])).toBeLessThan(1.5);
    expect(10 / (outputs[5] - outputs[4])).toBeGreaterThan(3);
  });
});

describe('what it listens to and works on', () => {
  const settings = { thresholdDbfs: -30, ratio: 4, kneeDb: 0, attackMs: 1, releaseMs: 3000 };
  const level = (x: Float64Array) => db(x.subarray(RATE / 2).reduce((most, v) => Math.max(most, Math.abs(v)), 0));

  test.each([
    [100, -15 * 0.75, -15 * 0.75],
    [50, -15 * 0.75, -10 * 0.75],
    [0, -15 * 0.75, -5 * 0.75],
  ])('a link of %i %% moves the quieter side by its share of the louder', (linkPercent, first, second) => {
    const signal = { left: sine(1000, -15, 1, RATE), right: sine(1000, -25, 1, RATE) };
    const { left, right } = aligned(signal, compressor({ ...settings, linkPercent }), RATE);
    expect(level(left) + 15).toBeCloseTo(first, 1);
    expect(level(right) + 25).toBeCloseTo(second, 1);
  });

  test('on mid or side alone the other is not touched', () => {
    const mid = sine(1000, -12, 1, RATE);
    const side = sine(1300, -12, 1, RATE);
    const signal = { left: mid.map((x, i) => x + side[i]), right: mid.map((x, i) => x - side[i]) };
    for (const operation of ['mid', 'side', 'midSide']) {
      const { left, right } = aligned(signal, compressor({ ...settings, operation, linkPercent: 0 }), RATE);
      const heard = { mid: left.map((x, i) => (x + right[i]) / 2), side: left.map((x, i) => (x - right[i]) / 2) };
      const reduced = -12 - 18 * 0.75;
      expect(level(heard.mid)).toBeCloseTo(operation === 'side' ? -12 : reduced, 1);
      expect(level(heard.side)).toBeCloseTo(operation === 'mid' ? -12 : reduced, 1);
    }
  });

  test('the key filters take away what the compressor listens to', () => {
    const quick = { ...settings, releaseMs: 80 };
    const gain = (frequencyHz: number, key: object) =>
      level(aligned(both(sine(frequencyHz, -10, 1, RATE)), compressor({ ...quick, ...key }), RATE).left) + 10;
    expect(gain(50, {})).toBeCloseTo(-15, 0);
    // A Butterworth of 12 dB per octave, two octaves below its corner: −24.1 dB.
    expect(gain(50, { sideChainHighPassHz: 200 })).toBeCloseTo(0, 1);
    expect(gain(1000, { sideChainTiltDb: 6 })).toBeCloseTo(-15, 0);
    expect(gain(7900, { sideChainTiltDb: 6 })).toBeCloseTo(-(20 + 5.8) * 0.75, 0);
    expect(gain(7900, { sideChainTiltDb: -6 })).toBeCloseTo(-(20 - 5.8) * 0.75, 0);
  });

  test('latency is the look-ahead, to the sample', () => {
    const { latency } = throughLane(both(sine(1000, -20, 0.1, RATE)), compressor({ lookAheadMs: 3.3 }), RATE);
    expect(latency).toBe(Math.round(3.3 * 48));
  });
});
