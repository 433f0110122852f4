import { aligned, loudnessOf, throughLane, truePeakOf } from '../../../tests/support/core';
import { both, db, difference, noise } from '../../../tests/support/signals';
import { Ditherer, DITHERS, type Dither } from '../deliver/dither';
import type { WordLength } from '../deliver/format';
import { noiseShaper } from '../deliver/noise-shaping';
import type { Biquad } from '../signal/biquad';
import { kWeighting } from '../signal/k-weighting';
import { Random } from '../signal/random';
import { bandSections } from '../stages/equalizer/design';
import { equalizerSettings } from '../stages/equalizer/settings';
import { BLOCK_FRAMES, Convolver } from '../stages/convolver';
import { Dynamics, PLAIN, staticReduction, type DynamicsDesign } from '../stages/dynamics';
import { Kernels } from './host';
import { ANNEX2_PHASES, FINE_PHASES } from './interpolator';
import { QUANTUM, TAPS } from './layout';
import { bitReversed, Transform } from './transform';

// Each kernel as plain float64 TypeScript: its executable definition.

/** Direct form I. */
function section({ b0, b1, b2, a1, a2 }: Biquad, x: Float64Array): Float64Array {
  const y = new Float64Array(x.length);
  for (let n = 0; n < x.length; n++) {
    y[n] = b0 * x[n] + b1 * (x[n - 1] ?? 0) + b2 * (x[n - 2] ?? 0) - a1 * (y[n - 1] ?? 0) - a2 * (y[n - 2] ?? 0);
  }
  return y;
}

/** All points of a 4x interpolation at frame n, centred on the same instant for both tables. */
function interpolated(x: Float64Array, n: number): number {
  let peak = Math.abs(x[n] ?? 0);
  const point = (taps: readonly number[], first: number) =>
    taps.reduce((sum, tap, k) => sum + tap * (x[first + k] ?? 0), 0);
  const [, quarter, half] = FINE_PHASES;
  for (const taps of [quarter, half, [...quarter].reverse()])
    peak = Math.max(peak, Math.abs(point(taps, n - TAPS / 2 + 1)));
  for (const taps of ANNEX2_PHASES) {
    for (const each of [taps, [...taps].reverse()]) peak = Math.max(peak, Math.abs(point(each, n - 5)));
  }
  return peak;
}

const RATE = 44100;
const input = { left: noise(6000, 0.7, 11), right: noise(6000, 0.7, 12) };

test('the cascade is the sections one after another', () => {
  const settings = equalizerSettings.parse({
    bands: [
      { shape: 'highPass', frequencyHz: 60, slopeDbPerOctave: 36 },
      { shape: 'bell', frequencyHz: 3000, gainDb: -5, q: 4 },
      { shape: 'highShelf', frequencyHz: 9000, gainDb: 4 },
    ],
  });
  const sections = settings.bands.flatMap((band) => bandSections(band, RATE));
  const output = throughLane(input, [{ kind: 'equalizer', settings }], RATE);
  for (const channel of ['left', 'right'] as const) {
    const expected = sections.reduce((x, each) => section(each, x), input[channel]);
    expect(db(difference(output[channel].subarray(0, 6000), expected))).toBeLessThan(-230);
  }
});

test('K-weighted loudness is both sections and the mean square', () => {
  const { shelf, highPass } = kWeighting(RATE);
  const signal = { left: noise(RATE, 0.3, 1), right: noise(RATE, 0.1, 2) };
  const weighted = [signal.left, signal.right].map((x) => section(highPass, section(shelf, x)));
  const mean =
    weighted.reduce((sum, x) => sum + x.subarray(0, 0.4 * RATE).reduce((s, v) => s + v * v, 0), 0) / (0.4 * RATE);
  expect(loudnessOf(signal, RATE).momentary[3]).toBeCloseTo(-0.691 + 10 * Math.log10(mean), 4);
});

test('the true-peak meter is the largest point of the fine interpolation', () => {
  const x = noise(3000, 0.5, 4);
  let expected = 0;
  const [, quarter, half] = FINE_PHASES;
  for (let n = -TAPS; n < x.length + TAPS; n++) {
    for (const taps of [quarter, half, [...quarter].reverse()]) {
      expected = Math.max(expected, Math.abs(taps.reduce((sum, tap, k) => sum + tap * (x[n + k] ?? 0), 0)));
    }
  }
  expect(truePeakOf(both(x))).toBeCloseTo(db(expected), 5);
});

test('the limiter is the running minimum of the needed gain, recovery and two moving averages', () => {
  const settings = { inputGainDb: 0, ceilingDbtp: -6, lookAheadMs: 2, recoveryMs: 50 };
  const ceiling = 10 ** (-6 / 20);
  const box = Math.round((2 * RATE) / 2000);
  const hold = 12;
  const reach = Math.ceil((2 * box - 1 + 2 * hold) / 4) * 4;
  const { left, right } = aligned(input, [{ kind: 'limiter', settings }], RATE);

  const frames = input.left.length;
  const needed = Float64Array.from({ length: frames + 2 * reach }, (_, i) => {
    const n = i - reach;
    return Math.min(1, ceiling / Math.max(interpolated(input.left, n), interpolated(input.right, n)));
  });
  const recovery = 1 - Math.exp(-1000 / (50 * RATE));
  const released = new Float64Array(needed.length);
  let gain = 1;
  for (let i = 0; i < needed.length; i++) {
    let lowest = 1;
    for (let k = Math.max(0, i - reach + 1); k <= i; k++) lowest = Math.min(lowest, needed[k]);
    gain = Math.min(lowest, gain + (lowest - gain) * recovery);
    released[i] = gain;
  }
  const average = (x: Float64Array) =>
    x.map((_, i) => Array.from({ length: box }, (__, k) => x[i - k] ?? 1).reduce((a, b) => a + b, 0) / box);
  const applied = average(average(released));
  // The gain at a frame is the one computed when the look-ahead has passed it.
  const ahead = 2 * box - 2 + hold;
  const expected = input.left.map((x, n) => x * applied[n + reach + ahead]);
  const inside = (x: Float64Array) => x.subarray(0, frames - 400);
  expect(db(difference(inside(left), inside(expected)))).toBeLessThan(-110);
  expect(db(difference(inside(right), inside(input.right.map((x, n) => x * applied[n + reach + ahead]))))).toBeLessThan(
    -110,
  );
});

test('filter states settle to zero after the sound has ended', () => {
  const settings = { bands: [{ shape: 'bell', frequencyHz: 50, gainDb: 12, q: 1 }] };
  const signal = both(Float64Array.from({ length: 4 * RATE }, (_, i) => (i < 100 ? 1 : 0)));
  const { left } = throughLane(signal, [{ kind: 'equalizer', settings }], RATE);
  expect(left.subarray(3 * RATE).every((x) => x === 0)).toBe(true);
});

test.each([64, 128])('the transform of %i points is the sum over all samples, and goes back', (size) => {
  const kernels = new Kernels();
  const transform = new Transform(kernels, size);
  const address = kernels.allocate(size * 16);
  const values = kernels.view64(address, size * 2);
  const signal = noise(size * 2, 1, 7);
  values.set(signal);
  transform.forward(address);
  const reversed = bitReversed(size);
  for (let k = 0; k < size; k++) {
    let [re, im] = [0, 0];
    for (let n = 0; n < size; n++) {
      const [c, s] = [Math.cos((-2 * Math.PI * k * n) / size), Math.sin((-2 * Math.PI * k * n) / size)];
      re += signal[2 * n] * c - signal[2 * n + 1] * s;
      im += signal[2 * n] * s + signal[2 * n + 1] * c;
    }
    expect(values[2 * reversed[k]]).toBeCloseTo(re, 11);
    expect(values[2 * reversed[k] + 1]).toBeCloseTo(im, 11);
  }
  transform.inverse(address);
  expect(
    difference(
      values.map((x) => x / size),
      signal,
    ),
  ).toBeLessThan(1e-14);
});

test('the convolver is the sum over all taps, with every crossing between the channels', () => {
  const kernels = new Kernels();
  const taps = 2 * BLOCK_FRAMES;
  const convolver = new Convolver(kernels, RATE, taps);
  const [direct, conjugate] = [noise(2 * taps, 0.1, 8), noise(2 * taps, 0.1, 9)];
  const work = kernels.allocate(2 * taps * 8);
  for (const [part, response] of [
    ['direct', direct],
    ['conjugate', conjugate],
  ] as const) {
    kernels.view64(work, 2 * taps).set(response);
    for (let i = 0; i < convolver.partitions; i++) convolver.load(part, i, work + i * BLOCK_FRAMES * 16);
  }
  convolver.begin(true, true);
  const [left, right] = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
  const output = { left: new Float64Array(4 * taps), right: new Float64Array(4 * taps) };
  for (let at = 0; at < 4 * taps; at += QUANTUM) {
    const padded = (x: Float64Array) => Float64Array.from({ length: QUANTUM }, (_, i) => x[at + i] ?? 0);
    kernels.view64(left, QUANTUM).set(padded(input.left));
    kernels.view64(right, QUANTUM).set(padded(input.right));
    convolver.process(left, right);
    output.left.set(kernels.view64(left, QUANTUM), at);
    output.right.set(kernels.view64(right, QUANTUM), at);
  }
  for (const n of [0, 1, 127, 128, 2047, 2048, 4095, 5000, 5999]) {
    let [re, im] = [0, 0];
    for (let k = 0; k < taps && k <= n; k++) {
      const [l, r] = [input.left[n - k], input.right[n - k]];
      const [a, b] = [direct[2 * k] + conjugate[2 * k], direct[2 * k + 1] + conjugate[2 * k + 1]];
      const [c, d] = [direct[2 * k] - conjugate[2 * k], direct[2 * k + 1] - conjugate[2 * k + 1]];
      // (direct)(l + ir) + (conjugate)(l − ir), by real and imaginary part.
      re += a * l - d * r;
      im += b * l + c * r;
    }
    expect(output.left[n + BLOCK_FRAMES]).toBeCloseTo(re, 11);
    expect(output.right[n + BLOCK_FRAMES]).toBeCloseTo(im, 11);
  }
});

test('the bound limits both channels and turns NaN into zero', () => {
  const kernels = new Kernels();
  const [left, right] = [kernels.allocate(64), kernels.allocate(64)];
  kernels.view64(left, 4).set([1e9, -1e9, NaN, 0.5]);
  kernels.view64(right, 4).set([Infinity, -Infinity, -99, 0]);
  kernels.run.bounded(left, right, 4, 100);
  expect([...kernels.view64(left, 4)]).toEqual([100, -100, 0, 0.5]);
  expect([...kernels.view64(right, 4)]).toEqual([100, -100, -99, 0]);
});

test('dynamics are the static curve, the smooth decoupled detector and the gain', () => {
  const design: DynamicsDesign = {
    ...PLAIN,
    thresholdDbfs: -24,
    slope: 0.75,
    kneeDb: 8,
    attackMs: 3,
    releaseMs: 60,
    onset: 0.5,
    link: 0.6,
    detector: 'rms',
    memory: { riseMs: 100, fallMs: 400 },
    dry: 0.2,
    wet: 0.8,
  };
  const { exp, log10, log, max } = Math;
  const kernels = new Kernels();
  const dynamics = new Dynamics({ kernels, sampleRate: RATE });
  dynamics.set(design);
  const pairs = kernels.allocate(2048);

  const share = (ms: number, frames = 1) => 1 - exp((-1000 * frames) / (ms * RATE));
  const atOnce = 0.5 * 0.45;
  const attack = share(3 / (1 + log(1 - atOnce)), 4);
  const state = [0, 1].map(() => ({ energy: 0, followed: 0, memory: 0, moved: 0, gain: 1, step: 0 }));
  for (let at = 0; at + 128 <= 5888; at += 128) {
    const block = [input.left.slice(at, at + 128), input.right.slice(at, at + 128)];
    for (let i = 0; i < 256; i++) kernels.f64[(pairs >> 3) + i] = block[i % 2][i >> 1];
    dynamics.process(pairs, pairs);
    const levels = state.map((each, channel) =>
      Array.from(block[channel], (x) => {
        each.energy += share(10) * (x ** 2 - each.energy);
        return 10 * log10(2 * each.energy);
      }),
    );
    for (let i = 0; i < 128; i++) {
      state.forEach((each, channel) => {
        if (i % 4 === 0) {
          const loudest = levels.map((channel) => max(...channel.slice(i, i + 4)));
          const wanted = staticReduction(design, loudest[channel] + 0.6 * (max(...loudest) - loudest[channel]));
          const target = max(wanted, each.memory / 2);
          each.followed = max(target, each.followed + share(60, 4) * (target - each.followed));
          each.memory +=
            each.followed > each.memory
              ? share(100, 4) * (each.followed - each.memory)
              : share(400, 4) * (wanted - each.memory);
          each.moved += attack * (each.followed - each.moved);
          const reduction = each.moved + atOnce * max(0, each.followed - each.moved);
          each.step = (10 ** (-reduction / 20) - each.gain) / 4;
        }
        each.gain += each.step;
        const expected = block[channel][i] * (0.2 + 0.8 * each.gain);
        expect(Math.abs(kernels.f64[(pairs >> 3) + 2 * i + channel] - expected)).toBeLessThan(1e-9);
      });
    }
  }
});

describe('dither', () => {
  const STEPS = 1 / 256;

  /** One channel, sample by sample. */
  function dithered(x: Float64Array, { depth, dither, sampleRate, seed, silentFrames = Infinity }: PlainDither) {
    const scale = 2 ** (depth - 1);
    const filter = dither === 'noise-shaped' ? noiseShaper(sampleRate) : [];
    const random = new Random(seed);
    let before = dither === 'high-pass TPDF' ? random.uniform() : 0;
    let errors = filter.map(() => 0);
    let silent = 0;
    let clipped = 0;
    const output = Array.from(x, (sample) => {
      const exact = sample * scale;
      silent = Math.abs(exact) < STEPS ? silent + 1 : 0;
      const value = filter.reduce((sum, c, k) => sum - c * errors[k], exact);
      let added = 0;
      if (dither === 'high-pass TPDF') {
        const drawn = random.uniform();
        added = drawn - before;
        before = drawn;
      } else if (dither !== 'none') added = random.uniform() - random.uniform();
      const rounded = Math.floor(value + added + 0.5);
      if (rounded < -scale || rounded > scale - 1) clipped++;
      const written = Number.isNaN(rounded) ? 0 : Math.min(Math.max(rounded, -scale), scale - 1);
      const error = written - value;
      errors = [Number.isNaN(error) ? 0 : Math.min(Math.max(error, -2), 2), ...errors.slice(0, -1)];
      return silent > silentFrames ? 0 : written + 0;
    });
    return { output, clipped };
  }

  interface PlainDither {
    depth: WordLength;
    dither: Dither;
    sampleRate: number;
    seed: number;
    silentFrames?: number;
  }

  // Over full scale, with NaN and infinities, and with silence long enough to become zeros.
  const x = Float64Array.from(noise(12000, 1.1, 5), (sample, i) => (i > 2000 && i < 8000 ? 0 : sample));
  x.set([NaN, Infinity, -Infinity, 1e300, -0, 1, -1], 100);

  test.each(
    DITHERS.flatMap((dither) => [16, 20, 24].flatMap((depth) => [44100, 192000].map((rate) => [dither, depth, rate]))),
  )('%s at %i bits and %i Hz is its definition, bit for bit, in blocks of any size', (...given) => {
    const [dither, depth, sampleRate] = given as [Dither, WordLength, number];
    for (const digitalSilence of [false, true]) {
      const ditherer = new Ditherer({ depth, dither, sampleRate, seeds: [7, 8], digitalSilence });
      const silentFrames = digitalSilence ? sampleRate / 10 : Infinity;
      let clipped = 0;
      for (const channel of [0, 1] as const) {
        const expected = dithered(x, { depth, dither, sampleRate, seed: 7 + channel, silentFrames });
        const output = new Int32Array(x.length);
        for (let at = 0; at < x.length; at += 4999)
          ditherer.process(channel, x.subarray(at, at + 4999), output.subarray(at));
        expect([...output]).toEqual(expected.output);
        clipped += expected.clipped;
      }
      expect(ditherer.clipped).toBe(clipped);
    }
  });
});

test('memory that is cleared is zeroed and given out again from the start', () => {
  const kernels = new Kernels();
  const first = kernels.allocate(4096);
  kernels.f64.fill(7, first >> 3, (first >> 3) + 512);
  const second = kernels.allocate(64);
  expect(kernels.cleared().allocate(4096)).toBe(first);
  expect(kernels.view64(first, 512).every((x) => x === 0)).toBe(true);
  expect(kernels.allocate(64)).toBe(second);
});
