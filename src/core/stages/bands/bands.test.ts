import { python } from '../../../../tests/support/python';
import { aligned } from '../../../../tests/support/core';
import { both, db, difference, impulse, noise, sine } from '../../../../tests/support/signals';
import { Kernels } from '../../kernels/host';
import { biquadMagnitude } from '../../signal/biquad';
import { bandSections } from '../equalizer/design';
import { BandSplitter, makeBands } from './band-splitter';
import { bandEdges, crossoversSchema, withCrossoverAt, type Crossovers } from './crossovers';
import { bandRegion } from './region';
import { LinearBandSplitter } from './linear-band-splitter';

const RATE = 48000;
const FRAMES = 32768;
const SETS = [[1000], [120, 3000], [80, 500, 6000], [60, 250, 2000, 9000]];
const crossoversAt = (frequenciesHz: number[], phase = 'minimum') => crossoversSchema.parse({ frequenciesHz, phase });

/** Impulse responses of all bands. */
function impulses(crossovers: Crossovers): Float64Array[] {
  const kernels = new Kernels();
  const context = {
    kernels,
    sampleRate: RATE,
    maxFrames: 128,
    crossovers,
    impulses: new Map(),
    use: 'delivery' as const,
  };
  const bands = makeBands(context);
  const pairs = kernels.allocate(2048);
  const linear = crossovers.phase === 'linear' ? new LinearBandSplitter(context, crossovers) : null;
  const splitter = new BandSplitter(context);
  splitter.set(crossovers);
  const [left, right] = [kernels.allocate(1024), kernels.allocate(1024)];
  const outputs = Array.from({ length: splitter.count }, () => new Float64Array(FRAMES));
  const input = impulse(FRAMES);
  for (let at = 0; at < FRAMES; at += 128) {
    kernels.view64(left, 128).set(input.subarray(at, at + 128));
    kernels.view64(right, 128).set(input.subarray(at, at + 128));
    if (linear) linear.split(left, right, bands);
    else {
      kernels.run.toPairs(left, right, pairs, 128);
      splitter.split(pairs, bands, 128);
    }
    outputs.forEach((output, i) => {
      for (let k = 0; k < 128; k++) output[at + k] = kernels.f64[(bands[i] >> 3) + 2 * k];
    });
  }
  return outputs;
}

/** Gain in dB of an impulse response at a frequency in Hz. */
function gainAt(x: Float64Array, frequencyHz: number): number {
  const step = (2 * Math.PI * frequencyHz) / RATE;
  let re = 0;
  let im = 0;
  for (let i = 0; i < x.length; i++) {
    re += x[i] * Math.cos(step * i);
    im += x[i] * Math.sin(step * i);
  }
  return db(Math.hypot(re, im));
}
const sum = (parts: Float64Array[]) => parts[0].map((_, i) => parts.reduce((total, part) => total + part[i], 0));
const FREQUENCIES = [20, 55, 80, 120, 250, 500, 1000, 2500, 6000, 9000, 15000, 20000];

describe.each(SETS.map((set) => [set.length + 1, set] as const))('%i bands', (_, frequencies) => {
  test.each(['minimum', 'linear'])('sum flat and are 6 dB down at their crossovers in %s phase', (phase) => {
    const bands = impulses(crossoversAt([...frequencies], phase));
    for (const hz of FREQUENCIES) expect(gainAt(sum(bands), hz)).toBeCloseTo(0, phase === 'linear' ? 6 : 4);
    frequencies.forEach((hz, i) => {
      // Linkwitz–Riley: −6.02 dB on both channels, less what a crossover nearby takes too.
      const others = frequencies.filter((other) => other !== hz);
      const near = others.reduce((loss, other) => loss - db(1 + Math.min(hz / other, other / hz) ** 4), 0);
      expect(gainAt(bands[i], hz)).toBeGreaterThan(-6.03 + near);
      expect(gainAt(bands[i], hz)).toBeLessThan(-6.01 - near / 10);
      expect(gainAt(bands[i + 1], hz)).toBeCloseTo(gainAt(bands[i], hz), -1);
    });
  });

  test('have the same magnitudes in linear phase, without the warp towards Nyquist', () => {
    const bands = impulses(crossoversAt([...frequencies], 'linear'));
    bands.forEach((band, i) =>
      FREQUENCIES.forEach((hz) => {
        const passes = (below: number[]) => below.reduce((gain, f) => gain * (1 - 1 / (1 + (hz / f) ** 4)), 1);
        const expected =
          passes(frequencies.slice(0, i)) / (i < frequencies.length ? 1 + (hz / frequencies[i]) ** 4 : 1);
        if (expected > 1e-4) expect(gainAt(band, hz)).toBeCloseTo(db(expected), 2);
      }),
    );
  });

  test('are SciPy’s Butterworth sections twice', () => {
    const expected = python<number[][]>(
      `
import json, sys
import numpy as np
from scipy.signal import butter, sosfreqz
given = json.load(sys.stdin)
w = 2 * np.pi * np.array(given["hz"]) / given["rate"]
out = []
rest = np.ones(len(w), complex)
for f in given["frequencies"]:
    low = sosfreqz(butter(2, f, "low", fs=given["rate"], output="sos"), w)[1] ** 2
    high = sosfreqz(butter(2, f, "high", fs=given["rate"], output="sos"), w)[1] ** 2
    out.append(np.abs(rest * low)); rest = rest * high
out.append(np.abs(rest))
print(json.dumps([[float(20 * np.log10(max(v, 1e-9))) for v in band] for band in out]))`,
      { rate: RATE, hz: FREQUENCIES, frequencies },
    );
    impulses(crossoversAt([...frequencies])).forEach((band, i) =>
      FREQUENCIES.forEach((hz, k) => {
        if (expected[i][k] > -80) expect(gainAt(band, hz)).toBeCloseTo(expected[i][k], 2);
      }),
    );
  });
});

test('in linear phase every band is symmetric in time', () => {
  const crossovers = crossoversAt([300, 4000], 'linear');
  const bands = impulses(crossovers);
  const centre = bands[2].reduce((best, x, i) => (Math.abs(x) > Math.abs(bands[2][best]) ? i : best), 0);
  for (const band of bands)
    for (let lag = 1; lag < 4000; lag++) expect(Math.abs(band[centre + lag] - band[centre - lag])).toBeLessThan(1e-12);
});

test('crossovers stay apart and in their range when one is moved', () => {
  const crossovers = crossoversAt([100, 1000, 5000]);
  expect(withCrossoverAt(crossovers, 1, 700).frequenciesHz).toEqual([100, 700, 5000]);
  expect(withCrossoverAt(crossovers, 1, 20).frequenciesHz[1]).toBe(126);
  expect(withCrossoverAt(crossovers, 1, 9000).frequenciesHz[1]).toBe(3968);
  expect(withCrossoverAt(crossovers, 2, 1e6).frequenciesHz[2]).toBe(16000);
  expect(withCrossoverAt(crossovers, 0, 1).frequenciesHz[0]).toBe(40);
  expect(crossoversSchema.safeParse(withCrossoverAt(crossovers, 1, 20)).success).toBe(true);
  expect(crossoversSchema.safeParse({ frequenciesHz: [1000, 1100] }).success).toBe(false);
});

const bandDynamics = (bands: object[]) => [
  { kind: 'bandDynamics', settings: { bands: Array.from({ length: 5 }, (_, i) => bands[i] ?? {}) } },
];
/** Far from the tones, so that hardly anything of them lies in another band. */
const crossovers = { frequenciesHz: [100, 8000] };
/** Settled, and clear of the end, which linear phase hears coming. */
const late = (x: Float64Array) => x.subarray(1.2 * RATE, 1.3 * RATE);
const endLevel = (x: Float64Array) => db(late(x).reduce((most, v) => Math.max(most, Math.abs(v)), 0));
const levelOf = (dbfs: number, frequencyHz: number, bands: object[]) => {
  const signal = both(sine(frequencyHz, dbfs, 1.5, RATE));
  return endLevel(aligned(signal, bandDynamics(bands), RATE, 1024, { crossovers }).left);
};

describe('band dynamics', () => {
  const QUICK = { attackMs: 1, releaseMs: 150 };
  const expansion = { ...QUICK, thresholdDbfs: -40, ratio: 3, rangeDb: 30 };
  const compression = { ...QUICK, thresholdDbfs: -30, ratio: 4, kneeDb: 0 };
  const limiting = { ...QUICK, thresholdDbfs: -20 };

  test('each alone, on a tone in the middle band', () => {
    expect(levelOf(-46, 1000, [{}, { expansion }])).toBeCloseTo(-46 - 2 * 6, 0);
    expect(levelOf(-34, 1000, [{}, { expansion }])).toBeCloseTo(-34, 1);
    expect(levelOf(-70, 1000, [{}, { expansion }])).toBeCloseTo(-70 - 30, 0);
    expect(levelOf(-10, 1000, [{}, { compression }])).toBeCloseTo(-30 + 20 / 4, 1);
    expect(levelOf(-10, 1000, [{}, { limiting }])).toBeCloseTo(-20, 1);
    expect(levelOf(-30, 1000, [{}, { makeupDb: 4 }])).toBeCloseTo(-26, 1);
  });

  test('together, one after the other', () => {
    const all = { expansion, compression, limiting: { ...limiting, thresholdDbfs: -26 }, makeupDb: 2 };
    expect(levelOf(-46, 1000, [{}, all])).toBeCloseTo(-46 - 12 + 2, 0);
    expect(levelOf(-20, 1000, [{}, all])).toBeCloseTo(-27.5 + 2, 1);
    // The compression alone would leave −25.
    expect(levelOf(-10, 1000, [{}, all])).toBeCloseTo(-26 + 2, 1);
  });

  test('the other bands, and a band that is off, stay as they are', () => {
    expect(levelOf(-10, 31, [{}, { compression }])).toBeCloseTo(-10, 1);
    expect(levelOf(-10, 19900, [{}, { compression }])).toBeCloseTo(-10, 1);
    expect(levelOf(-10, 1000, [{}, { compression, on: false }, { compression }])).toBeCloseTo(-10, 1);
    const signal = { left: noise(8192, 0.2, 1), right: noise(8192, 0.2, 2) };
    const idle = aligned(signal, bandDynamics([{}, { compression, on: false }]), RATE, 1024, { crossovers });
    expect(difference(idle.left, signal.left)).toBe(0);
  });

  test('linear phase gives the same levels later', () => {
    const signal = both(sine(1000, -10, 1.5, RATE));
    const linear = { crossovers: { ...crossovers, phase: 'linear' } };
    const { left } = aligned(signal, bandDynamics([{}, { compression }]), RATE, 1024, linear);
    expect(endLevel(left)).toBeCloseTo(levelOf(-10, 1000, [{}, { compression }]), 1);
    // The tone itself, in its place in time: all of it goes along with the input.
    const energy = (x: Float64Array, y: Float64Array) => x.reduce((total, v, i) => total + v * y[i], 0);
    const [ends, input] = [late(left), late(signal.left)];
    expect(energy(ends, input) / Math.sqrt(energy(ends, ends) * energy(input, input))).toBeCloseTo(1, 3);
  });
});

describe('a band as a region', () => {
  const three = crossoversAt([200, 3000]);

  test('lies between its edges', () => {
    expect([0, 1, 2].map((band) => bandEdges(three, band))).toEqual([
      [0, 200],
      [200, 3000],
      [3000, Infinity],
    ]);
  });

  test.each([
    [0, 50, 0],
    [0, 200, -6.02],
    [1, 200, -6.02],
    [1, 800, 0],
    [1, 3000, -6.02],
    [2, 3000, -6.02],
    [2, 12000, 0],
  ])('band %i heard alone at %i Hz is as it is split off', (band, hz, expected) => {
    const sections = bandRegion(three, band).flatMap((each) => bandSections(each, RATE));
    const gain = sections.reduce((sum, each) => sum + db(biquadMagnitude(each, (2 * Math.PI * hz) / RATE)), 0);
    expect(Math.abs(gain - expected)).toBeLessThan(0.15);
  });
});
