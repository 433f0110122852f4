import { python } from '../../../tests/support/python';
import { difference, db, noise, sine } from '../../../tests/support/signals';
import { spectrumOf } from '../../../tests/support/spectrum';
import { Kernels } from '../kernels/host';
import { QUANTUM } from '../kernels/layout';
import { leastLatencyHalfBand, linearHalfBand } from '../signal/half-band';
import {
  ALIASING_DB,
  Oversampler,
  OVERSAMPLING_FACTORS,
  type OversamplingFactor,
  type OversamplingPhase,
} from './oversampler';

const RATE = 44100;
const { PI, abs, atan2, cos, hypot, max, sin } = Math;

/** What comes back from a factor with nothing done there, or with `bend` on each sample. */
function through(
  x: Float64Array,
  factor: OversamplingFactor,
  phase: OversamplingPhase,
  bend?: (sample: number) => number,
): { out: Float64Array; latency: number } {
  const kernels = new Kernels();
  const oversampler = new Oversampler({ kernels }, factor, phase);
  const channels = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
  const out = new Float64Array(Math.ceil(x.length / QUANTUM) * QUANTUM);
  const task = {
    work: (left: number, right: number, frames: number) => {
      if (!bend) return;
      for (const at of [left >> 2, right >> 2])
        for (let i = at; i < at + frames; i++) kernels.f32[i] = bend(kernels.f32[i]);
    },
  };
  for (let at = 0; at < out.length; at += QUANTUM) {
    for (const channel of channels) {
      kernels.view64(channel, QUANTUM).fill(0);
      kernels.view64(channel, QUANTUM).set(x.subarray(at, at + QUANTUM));
    }
    oversampler.process(channels[0], channels[1], task);
    expect(kernels.view64(channels[0], QUANTUM)).toEqual(kernels.view64(channels[1], QUANTUM));
    out.set(kernels.view64(channels[0], QUANTUM), at);
  }
  return { out, latency: oversampler.latency };
}

// What lies up to 20 kHz at 44.1 kHz.
describe.each([0, 1, 2, 3])('the half-band filters of doubling %i', (doubling) => {
  const edge = 20000 / (2 * RATE * 2 ** doubling);
  const steps = Array.from({ length: 401 }, (_, i) => (edge * i) / 400);

  test('linear phase: ripple below 0.0003 dB, stopband below −90 dB', () => {
    const { taps } = linearHalfBand(doubling);
    const size = (f: number) =>
      abs(0.5 + 0.5 * taps.reduce((sum, tap, k) => sum + tap * cos(2 * PI * f * (2 * k - (taps.length - 1))), 0));
    for (const f of steps) {
      expect(abs(db(size(f)))).toBeLessThan(0.0003);
      expect(db(size(0.5 - f))).toBeLessThan(-90);
    }
  });

  test('minimum latency: ripple below 0.0001 dB, stopband below −89 dB', () => {
    const sections = leastLatencyHalfBand(doubling);
    const size = (f: number) => {
      const w = 4 * PI * f;
      const turns = [0, -2 * PI * f];
      sections.forEach((a, i) => (turns[i % 2] += 2 * atan2(a * sin(w), 1 + a * cos(w)) - w));
      return hypot(cos(turns[0]) + cos(turns[1]), sin(turns[0]) + sin(turns[1])) / 2;
    };
    for (const f of steps) {
      expect(abs(db(size(f)))).toBeLessThan(0.0001);
      expect(db(size(0.5 - f))).toBeLessThan(-89);
    }
  });
});

test('in linear phase the filters are the equiripple ones that SciPy finds', () => {
  const filters = [0, 1, 2, 3].map((doubling) => linearHalfBand(doubling).taps);
  const found = python<number[][]>(
    `import json, sys
from scipy import signal
# One band up to twice 20 kHz of each doubled rate; the second only completes what the function asks for.
print(json.dumps([signal.remez(n, [0, 2 * edge, 0.4999999, 0.5], [1, 0], weight=[1, 1e-9], fs=1.0, maxiter=200, grid_density=32).tolist() for n, edge in json.load(sys.stdin)]))`,
    filters.map((taps, doubling) => [taps.length, 20000 / (2 * RATE * 2 ** doubling)]),
  );
  filters.forEach((taps, doubling) => taps.forEach((tap, k) => expect(tap).toBeCloseTo(found[doubling][k], 6)));
});

describe.each(OVERSAMPLING_FACTORS.slice(1))('%i times', (factor) => {
  test('in linear phase a tone comes back as it was, late by the latency to the sample', () => {
    const x = sine(997, -6, 0.2, RATE);
    const { out, latency } = through(x, factor, 'linear');
    const settled = latency + 200;
    const came = out.subarray(settled, x.length);
    expect(db(difference(came, x.subarray(settled - latency, x.length - latency)))).toBeLessThan(-90);
  });

  test('with minimum latency a tone comes back at the same level, late by no more than half a frame from what is stated', () => {
    const x = sine(500, -6, 0.2, RATE);
    const { out, latency } = through(x, factor, 'least');
    expect(latency).toBeLessThan(8);
    const late = x.subarray(0, 4000 - latency);
    // Half a frame of a tone of 500 Hz is a difference of 2 sin(π · 500 · 0.5 / 44100) of its amplitude.
    const most = 0.5 * 2 * sin((PI * 500 * 0.5) / RATE);
    expect(difference(out.subarray(1000 + latency, 4000), late.subarray(1000))).toBeLessThan(most * 1.05);
  });
});

test('off changes nothing but the word length', () => {
  const x = noise(2048, 0.7);
  const { out, latency } = through(x, 1, 'linear');
  expect(latency).toBe(0);
  expect(db(difference(out, x))).toBeLessThan(-140);
});

test.each(['linear', 'least'] as const)('the stated aliasing of a hard clip for each factor, %s', (phase) => {
  const clip = (x: number) => max(-1, Math.min(1, x));
  for (const factor of OVERSAMPLING_FACTORS) {
    const { out } = through(sine(5000, 12, 0.15, RATE), factor, phase, clip);
    const level = spectrumOf(out.subarray(2205, 2205 + RATE / 10), RATE);
    let highest = -200;
    // Lines that fold back lie at multiples of 100 Hz, as 44100 and 5000 are.
    for (let hz = 100; hz < 20000; hz += 100) if (hz % 5000 !== 0) highest = max(highest, level(hz) - level(5000));
    expect(abs(highest - ALIASING_DB[factor])).toBeLessThan(0.6);
  }
});
