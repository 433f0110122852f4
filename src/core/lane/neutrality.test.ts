import { throughLane, valuesOf } from '../../../tests/support/core';
import { db, difference, noise } from '../../../tests/support/signals';
import { linearBandsLatency } from '../stages/bands/linear-band-splitter';
import { compressorSettings } from '../stages/compressor/settings';
import { BLOCK_FRAMES } from '../stages/convolver';
import { halfBandLatency } from '../signal/half-band';
import { linearPhaseLatency } from '../stages/equalizer/linear-phase';
import { saturationSettings } from '../stages/saturation/settings';
import { stereoSettings } from '../stages/stereo/settings';

const RATE = 48000;
const FRAMES = 16_000;
const signal = { left: noise(FRAMES, 0.5, 21), right: noise(FRAMES, 0.5, 22) };

type Case = [name: string, stage: { kind: string; settings: object }, latency: number, phase?: 'minimum' | 'linear'];

const HEAVY = { thresholdDbfs: -60, ratio: 20, attackMs: 0.02 };
const CASES: Case[] = [
  ['trim at 0 dB, channels unlinked', { kind: 'trim', settings: { linked: false } }, 0],
  ...valuesOf(compressorSettings.shape.circuit).map((circuit): Case => [
    `a compressor of 1:1, ${circuit}`,
    { kind: 'compressor', settings: { ...HEAVY, circuit, ratio: 1, autoRelease: true, detector: 'rms' } },
    0,
  ]),
  ...valuesOf(compressorSettings.shape.operation).map((operation): Case => [
    `a compressor without range on ${operation}`,
    { kind: 'compressor', settings: { ...HEAVY, operation, rangeDb: 0, linkPercent: 30 } },
    0,
  ]),
  ['a dry compressor', { kind: 'compressor', settings: { ...HEAVY, mixPercent: 0 } }, 0],
  [
    'a compressor that looks ahead at nothing',
    { kind: 'compressor', settings: { lookAheadMs: 7.5, thresholdDbfs: 0, ratio: 1 } },
    360,
  ],
  ['band dynamics at rest', { kind: 'bandDynamics', settings: {} }, 0],
  ['band dynamics at rest in linear phase', { kind: 'bandDynamics', settings: {} }, linearBandsLatency(RATE), 'linear'],
  [
    'bands of linear phase that each do next to nothing',
    { kind: 'bandDynamics', settings: { bands: [1, 2, 3, 4, 5].map(() => ({ makeupDb: 1e-9 })) } },
    linearBandsLatency(RATE),
    'linear',
  ],
  ['a de-esser without range', { kind: 'deEsser', settings: { thresholdDb: -40, rangeDb: 0, part: 'side' } }, 0],
  ...valuesOf(stereoSettings.shape.monoShape).map((monoShape): Case => [
    `a stereo stage with its bass left alone, ${monoShape}`,
    { kind: 'stereo', settings: { monoShape, monoUpperHz: 300, sideHighPassHz: 500 } },
    0,
  ]),
  ['a stereo stage in linear phase', { kind: 'stereo', settings: {} }, linearBandsLatency(RATE), 'linear'],
  ['a silent room', { kind: 'room', settings: { impulse: 'hall', preDelayMs: 40 } }, BLOCK_FRAMES],
  ...[1, 2, 4, 8, 16].flatMap((factor): Case[] => [
    [
      `a dry saturation, ${factor} times`,
      { kind: 'saturation', settings: { mixPercent: 0, oversampling: { listening: 1, delivery: factor } } },
      halfBandLatency('linear', Math.log2(factor)),
    ],
    [
      `a clipper that nothing reaches, ${factor} times`,
      { kind: 'clipper', settings: { oversampling: { listening: 1, delivery: factor } } },
      halfBandLatency('linear', Math.log2(factor)),
    ],
  ]),
  ...valuesOf(saturationSettings.shape.split).map((split): Case => [
    `a dry saturation of minimum latency, ${split}`,
    { kind: 'saturation', settings: { mixPercent: 0, split, oversampling: { phase: 'least' } } },
    halfBandLatency('least', 2),
  ]),
  [
    'a saturation of bands of linear phase without amounts',
    { kind: 'saturation', settings: { split: 'bands', bandAmountsPercent: [0, 0, 0, 0, 0] } },
    linearBandsLatency(RATE) + halfBandLatency('linear', 2),
    'linear',
  ],
  [
    'a limiter below its ceiling, each channel by itself, recovering by itself',
    { kind: 'limiter', settings: { linkPercent: 0, autoRecoveryPercent: 100, detection: 'sample' } },
    266,
  ],
  [
    'a linear-phase equalizer without bands',
    { kind: 'equalizer', settings: { phase: 'linear' } },
    linearPhaseLatency(RATE),
  ],
];

test.each(CASES)(
  '%s nulls against the dry signal, its latency to the sample',
  (_, stage, latency, phase = 'minimum') => {
    const crossovers = { frequenciesHz: [200, 3000], phase };
    const result = throughLane(signal, [stage], RATE, 1024, { crossovers });
    expect(result.latency).toBe(latency);
    for (const channel of ['left', 'right'] as const) {
      const late = result[channel].subarray(latency, latency + FRAMES);
      expect(db(difference(late, signal[channel]))).toBeLessThan(-140);
      expect(result[channel].subarray(0, latency).every((x) => Math.abs(x) < 1e-12)).toBe(true);
    }
  },
);
