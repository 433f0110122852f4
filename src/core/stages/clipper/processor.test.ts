import { aligned } from '../../../../tests/support/core';
import { both, db, difference, join, noise, silence, sine } from '../../../../tests/support/signals';
import { Kernels } from '../../kernels/host';
import { QUANTUM } from '../../kernels/layout';
import { Oversampler, type OversamplingFactor } from '../oversampler';
import { clipped, type ClipCurve } from './curves';

const RATE = 44100;
const CEILING = 0.5;
const KNEE = 0.3;

/** The same without leaving anything out: everything is brought up, and what was cut is brought down. */
function everything(x: Float64Array, factor: OversamplingFactor, curve: ClipCurve): Float64Array {
  const kernels = new Kernels();
  const oversampler = new Oversampler({ kernels }, factor, 'linear');
  const channels = [kernels.allocate(QUANTUM * 8), kernels.allocate(QUANTUM * 8)];
  const removed = new Float64Array(Math.ceil((x.length + oversampler.latency) / QUANTUM) * QUANTUM);
  const knee = curve === 'hard' ? 0 : KNEE * CEILING;
  const task = {
    work: (left: number, _: number, frames: number) => {
      for (let i = left >> 2; i < (left >> 2) + frames; i++)
        kernels.f32[i] = clipped(curve, kernels.f32[i], CEILING, knee) - kernels.f32[i];
    },
  };
  for (let at = 0; at < removed.length; at += QUANTUM) {
    kernels.view64(channels[0], QUANTUM).fill(0);
    kernels.view64(channels[0], QUANTUM).set(x.subarray(at, at + QUANTUM));
    oversampler.process(channels[0], channels[1], task);
    removed.set(kernels.view64(channels[0], QUANTUM), at);
  }
  return x.map((value, i) => value + removed[i + oversampler.latency]);
}

// Quiet stretches and loud ones of all lengths, so that the filters rest and wake in every place of a grain.
const bursts = join(
  ...Array.from({ length: 24 }, (_, i) => [
    noise(37 + 61 * i, 0.2, i + 1),
    noise(5 + 29 * i, 0.7, i + 100),
    silence(0.002, RATE),
    sine(400 * (i + 1), -4, 0.003, RATE, 20 * i),
  ]).flat(),
);

test.each([
  [1, 'hard'],
  [2, 'smooth'],
  [4, 'long'],
  [8, 'hard'],
  [16, 'bowed'],
] as const)('%i times: leaving out what cannot be cut changes nothing, %s', (factor, curve) => {
  const settings = {
    curve,
    ceilingDbfs: db(CEILING),
    kneePercent: 100 * KNEE,
    oversampling: { listening: 1, delivery: factor },
  };
  const { left } = aligned(both(bursts), [{ kind: 'clipper', settings }], RATE);
  const whole = everything(bursts, factor, curve);
  expect(db(difference(left, whole))).toBeLessThan(-100);
  // It does cut.
  expect(difference(bursts, whole)).toBeGreaterThan(0.1);
});
