import fc from 'fast-check';
import type { z } from 'zod';
import { aligned, throughLane, valuesOf } from '../../../tests/support/core';
import { above, both, db, difference, noise, sine } from '../../../tests/support/signals';
import { describe as describeQuantity } from '../stages/setting';
import {
  bandDynamics,
  equalizerBand,
  equalizerSettings,
  equalizerState,
  SHAPES,
  SLOPES,
} from '../stages/equalizer/settings';
import {
  bandCompression,
  bandDynamicsSettings,
  bandExpansion,
  bandLimiting,
  dynamicsBand,
} from '../stages/band-dynamics/settings';
import { crossoversSchema } from '../stages/bands/crossovers';
import { compressorSettings } from '../stages/compressor/settings';
import { deEsserSettings } from '../stages/de-esser/settings';
import { roomSettings } from '../stages/room/settings';
import { bandWidth, stereoSettings } from '../stages/stereo/settings';
import { CLIP_CURVES } from '../stages/clipper/curves';
import { clipperSettings } from '../stages/clipper/settings';
import { limiterSettings } from '../stages/limiter/settings';
import { OVERSAMPLING_FACTORS } from '../stages/oversampler';
import { CURVES } from '../stages/saturation/curves';
import { saturationSettings } from '../stages/saturation/settings';
import { trimSettings } from '../stages/trim/settings';
import { STAGES, type StageKind } from '../stages/registry';
import { LaneProcessor } from './processor';
import { LANE_SCHEMA, newStage, parseLane, type Lane } from './schema';

const RATE = 44100;
const KINDS = Object.keys(STAGES) as StageKind[];
const laneOf = (...given: { kind: string; settings: object }[]): Lane =>
  parseLane({ schema: LANE_SCHEMA, stages: given.map((stage, i) => ({ id: String(i), ...stage })) });

const WORKING = [
  { kind: 'trim', settings: { gainDb: 3 } },
  {
    kind: 'equalizer',
    settings: {
      bands: [
        { shape: 'bell', frequencyHz: 900, gainDb: 5, q: 2 },
        { shape: 'highPass', frequencyHz: 40 },
        { shape: 'highShelf', frequencyHz: 5000, part: 'side', dynamics: { thresholdDbfs: -30 } },
      ],
    },
  },
  {
    kind: 'equalizer',
    settings: { phase: 'linear', bands: [{ shape: 'bell', frequencyHz: 200, gainDb: 3, part: 'left' }] },
  },
  { kind: 'deEsser', settings: { thresholdDb: -20 } },
  { kind: 'compressor', settings: { circuit: 'fet', thresholdDbfs: -20, ratio: 4, lookAheadMs: 1, autoRelease: true } },
  {
    kind: 'bandDynamics',
    settings: {
      bands: [{ compression: { ratio: 3 } }, { expansion: { ratio: 2 } }, { limiting: { thresholdDbfs: -30 } }, {}, {}],
    },
  },
  { kind: 'stereo', settings: { monoBelow: true, widthsPercent: [50, 100, 120, 100, 100] } },
  { kind: 'room', settings: { wetDb: -20 } },
  {
    kind: 'saturation',
    settings: {
      curve: 'mixedFirm',
      driveDb: 12,
      toneBeforeDb: 3,
      protectBelowHz: 80,
      movement: 'level',
      split: 'bands',
    },
  },
  { kind: 'saturation', settings: { part: 'mid', movement: 'wander', rateHz: 5, oversampling: { phase: 'least' } } },
  { kind: 'clipper', settings: { ceilingDbfs: -3, curve: 'smooth', truePeaks: true } },
  {
    kind: 'limiter',
    settings: {
      inputGainDb: 6,
      recoveryMs: 30,
      autoRecoveryPercent: 100,
      emphasisDb: 3.5,
      linkPercent: 60,
      preLimited: true,
    },
  },
];
const signal = { left: noise(20_000, 0.4, 1), right: noise(20_000, 0.4, 2) };

test.each([
  [256, 'minimum'],
  [1024, 'linear'],
  [4096, 'minimum'],
])('blocks of %i frames give the same bits as blocks of 128, with crossovers of %s phase', (block, phase) => {
  const crossovers = { frequenciesHz: [200, 2500], phase };
  const small = throughLane(signal, WORKING, RATE, 128, { crossovers });
  const large = throughLane(signal, WORKING, RATE, block, { crossovers });
  const frames = 20_000;
  expect(difference(small.left.subarray(0, frames), large.left.subarray(0, frames))).toBe(0);
  expect(difference(small.right.subarray(0, frames), large.right.subarray(0, frames))).toBe(0);
});

// Saturation is there to be heard, and begins with some drive.
test.each(KINDS.filter((kind) => kind !== 'saturation'))(
  '%s at its defaults passes the signal untouched, in place in time',
  (kind) => {
    const quiet = { left: signal.left.map((x) => x / 2), right: signal.right.map((x) => x / 2) };
    const result = aligned(quiet, [{ kind, settings: newStage(kind, 'x').settings }], RATE);
    expect(difference(result.left, quiet.left)).toBe(0);
    expect(difference(result.right, quiet.right)).toBe(0);
  },
);

test('a stage that is off passes every bit and adds no latency', () => {
  const off = WORKING.map((stage) => ({ ...stage, on: false }));
  const result = throughLane(signal, off, RATE);
  expect(result.latency).toBe(0);
  expect(difference(result.left.subarray(0, 20_000), signal.left)).toBe(0);
});

const CHANGE_FRAME = 128 * 170;

/** What a steady tone becomes while settings change at half time. */
function whileChanging(before: { kind: string; settings: object }[], after: { kind: string; settings: object }[]) {
  return runLanes(laneOf(...before), laneOf(...after));
}

function runLanes(before: Lane, after: Lane): Float64Array {
  const tone = both(sine(997, -12, 1, RATE));
  const lane = new LaneProcessor(before, { sampleRate: RATE, maxFrames: 128, meterHops: 0 });
  const output = new Float64Array(Math.floor(RATE / 128) * 128);
  for (let at = 0; at < output.length; at += 128) {
    if (at === CHANGE_FRAME) expect(lane.update(after)).toBe(true);
    lane.left.set(tone.left.subarray(at, at + 128));
    lane.right.set(tone.right.subarray(at, at + 128));
    lane.process(128);
    output.set(lane.left, at);
  }
  return output;
}

/**
 * Highest level in dBFS of what lies two octaves and more above the tone from the change on: a click reaches there, a
 * smooth change does not.
 */
function clickLevel(x: Float64Array): number {
  const high = above(x.subarray(CHANGE_FRAME - 2048, CHANGE_FRAME + 14_000), 4000, RATE);
  // The filter's own beginning is no click.
  return db(high.subarray(1000).reduce((most, v) => Math.max(most, Math.abs(v)), 0));
}

const steadyLevels = new Map<string, number>();
/** The same without any change. */
function steadyLevel(settings: { kind: string; settings: object }[]): number {
  const key = JSON.stringify(settings);
  const level = steadyLevels.get(key) ?? clickLevel(whileChanging(settings, settings));
  steadyLevels.set(key, level);
  return level;
}

const squeezed = (settings: object) => ({
  kind: 'compressor',
  settings: { thresholdDbfs: -30, ratio: 4, ...settings },
});
const hushed = (settings: object) => ({
  kind: 'deEsser',
  settings: { thresholdDb: -30, frequencyHz: 2000, ...settings },
});
const bands = (...given: object[]) => [{ kind: 'equalizer', settings: { bands: given } }];

/** Every numeric control of every stage, from one end of its range to the other, where it does something. */
const SOUNDING = { shape: 'bell', frequencyHz: 1000, gainDb: 12, q: 1 };
const MOVING = { ...SOUNDING, dynamics: { thresholdDbfs: -60, rangeDb: -12, attackMs: 10, releaseMs: 50 } };
type Jump = [name: string, before: { kind: string; settings: object }[], after: { kind: string; settings: object }[]];

function jumps(name: string, schema: z.ZodType, settings: (value: number) => { kind: string; settings: object }): Jump {
  const { min, max } = describeQuantity(schema);
  return [name, [settings(min)], [settings(max)]];
}

/** Names of the numeric settings of a stage, without those whose change needs another processor. */
function quantitiesOf<Shape extends z.ZodRawShape>(shape: Shape, but: (keyof Shape)[] = []): NumericName<Shape>[] {
  const numeric = (name: string) => (shape[name] as z.ZodType).meta()?.quantity !== undefined;
  return Object.keys(shape).filter((name) => numeric(name) && !but.includes(name)) as NumericName<Shape>[];
}
type NumericName<Shape> = {
  [Name in keyof Shape]: Shape[Name] extends z.ZodDefault<z.ZodNumber> ? Name : never;
}[keyof Shape] &
  string;
const bandStage = (band: object) => ({ kind: 'bandDynamics', settings: { bands: [{}, band, {}, {}, {}] } });

const EVERY_CONTROL: Jump[] = [
  ...(['gainDb', 'gainLeftDb', 'gainRightDb'] as const).map((name) =>
    jumps(`trim ${name}`, trimSettings.shape[name], (value) => ({
      kind: 'trim',
      settings: { linked: name === 'gainDb', [name]: value },
    })),
  ),
  ...(['frequencyHz', 'gainDb', 'q'] as const).map((name) =>
    jumps(`band ${name}`, equalizerBand.shape[name], (value) => bands({ ...SOUNDING, [name]: value })[0]),
  ),
  ...(['thresholdDbfs', 'rangeDb', 'attackMs', 'releaseMs'] as const).map((name) =>
    jumps(
      `dynamics ${name}`,
      bandDynamics.shape[name],
      (value) => bands({ ...MOVING, dynamics: { ...MOVING.dynamics, [name]: value } })[0],
    ),
  ),
  ...(['scalePercent', 'shiftDb'] as const).map((name) =>
    jumps(`all gains, ${name}`, equalizerState.shape[name], (value) => ({
      kind: 'equalizer',
      settings: { bands: [SOUNDING], [name]: value },
    })),
  ),
  jumps('resonance', equalizerBand.shape.q, (q) => bands({ shape: 'highPass', frequencyHz: 900, q })[0]),
  ...quantitiesOf(compressorSettings.shape, ['lookAheadMs']).map((name) =>
    jumps(`compressor ${name}`, compressorSettings.shape[name], (value) => ({
      kind: 'compressor',
      settings: { circuit: 'fet', thresholdDbfs: -30, ratio: 4, operation: 'midSide', [name]: value },
    })),
  ),
  ...(['expansion', 'compression', 'limiting'] as const).flatMap((part) => {
    const schema = { expansion: bandExpansion, compression: bandCompression, limiting: bandLimiting }[part];
    const working = {
      expansion: { thresholdDbfs: -10, ratio: 2 },
      compression: { ratio: 4 },
      limiting: { thresholdDbfs: -20 },
    };
    return quantitiesOf(schema.shape).map((name) =>
      jumps(`band ${part} ${name}`, schema.shape[name], (value) =>
        bandStage({ [part]: { ...working[part], [name]: value } }),
      ),
    );
  }),
  jumps('band makeup', dynamicsBand.shape.makeupDb, (makeupDb) => bandStage({ makeupDb })),
  ...quantitiesOf(deEsserSettings.shape).map((name) =>
    jumps(`de-esser ${name}`, deEsserSettings.shape[name], (value) => ({
      kind: 'deEsser',
      settings: { thresholdDb: -30, reduction: 'wide', frequencyHz: 2000, [name]: value },
    })),
  ),
  ...quantitiesOf(stereoSettings.shape).map((name) =>
    jumps(`stereo ${name}`, stereoSettings.shape[name], (value) => ({
      kind: 'stereo',
      settings: { leftDb: 3, monoBelow: true, sideHighPass: true, [name]: value },
    })),
  ),
  jumps('a width', bandWidth, (width) => ({
    kind: 'stereo',
    settings: { leftDb: 3, widthsPercent: [100, width, 100, 100, 100] },
  })),
  ...quantitiesOf(roomSettings.shape).map((name) =>
    jumps(`room ${name}`, roomSettings.shape[name], (value) => ({
      kind: 'room',
      settings: { wetDb: -6, [name]: value },
    })),
  ),
  ...quantitiesOf(limiterSettings.shape)
    // These two make another limiter.
    .filter((name) => name !== 'lookAheadMs' && name !== 'linkPercent')
    .map((name) =>
      jumps(`limiter ${name}`, limiterSettings.shape[name], (value) => ({
        kind: 'limiter',
        settings: {
          inputGainDb: 6,
          preLimited: name.startsWith('preLimit'),
          linkPercent: 50,
          ...(name.endsWith('Hz') ? { emphasisDb: 6 } : {}),
          [name]: value,
        },
      })),
    ),
  ...quantitiesOf(clipperSettings.shape).map((name) =>
    jumps(`clipper ${name}`, clipperSettings.shape[name], (value) => ({
      kind: 'clipper',
      settings: { curve: 'bowed', inputGainDb: 3, [name]: value },
    })),
  ),
  ...quantitiesOf(saturationSettings.shape).map((name) =>
    jumps(`saturation ${name}`, saturationSettings.shape[name], (value) => ({
      kind: 'saturation',
      settings: {
        driveDb: 3,
        toneUndone: false,
        ...(name === 'rateHz' || name === 'depthPercent' ? { movement: 'wander' } : {}),
        [name]: value,
      },
    })),
  ),
];

test.each<Jump>([
  ...EVERY_CONTROL,
  ['trim to apart', [{ kind: 'trim', settings: {} }], [{ kind: 'trim', settings: { linked: false, gainLeftDb: -12 } }]],
  [
    'bell far away',
    bands({ shape: 'bell', frequencyHz: 60, gainDb: 12, q: 4 }),
    bands({ shape: 'bell', frequencyHz: 9000, gainDb: 12, q: 4 }),
  ],
  ['part', bands(SOUNDING), bands({ ...SOUNDING, part: 'right' })],
  [
    'slope',
    bands({ shape: 'highPass', frequencyHz: 900, slopeDbPerOctave: 6 }),
    bands({ shape: 'highPass', frequencyHz: 900, slopeDbPerOctave: 48 }),
  ],
  [
    'band on',
    bands({ shape: 'highPass', frequencyHz: 800, on: false }),
    bands({ shape: 'highPass', frequencyHz: 800 }),
  ],
  [
    'shape',
    bands({ shape: 'lowPass', frequencyHz: 3000 }),
    bands({ shape: 'highShelf', frequencyHz: 3000, gainDb: 9 }),
  ],
  [
    'band dynamics',
    bands({ shape: 'bell', frequencyHz: 1000, dynamics: { thresholdDbfs: 0 } }),
    bands({ shape: 'bell', frequencyHz: 1000, dynamics: { thresholdDbfs: -60, rangeDb: -18, attackMs: 20 } }),
  ],
  [
    'band dynamics to none',
    bands({ shape: 'lowShelf', frequencyHz: 2000, dynamics: { thresholdDbfs: -60, rangeDb: 12 } }),
    bands({ shape: 'lowShelf', frequencyHz: 2000 }),
  ],
  ['circuit', [squeezed({ circuit: 'vca' })], [squeezed({ circuit: 'opto', autoRelease: true, detector: 'rms' })]],
  ['operation', [squeezed({ operation: 'stereo' })], [squeezed({ operation: 'mid' })]],
  ['de-esser part', [hushed({ part: 'stereo' })], [hushed({ part: 'side', detection: 'above' })]],
  ['polarity', [{ kind: 'stereo', settings: {} }], [{ kind: 'stereo', settings: { invertLeft: true, swap: true } }]],
  [
    'mono shape',
    [{ kind: 'stereo', settings: { leftDb: 3, monoBelow: true } }],
    [{ kind: 'stereo', settings: { leftDb: 3, monoBelow: true, monoShape: 'steep' } }],
  ],
  [
    'a band switched on',
    [bandStage({ compression: { ratio: 4 }, on: false })],
    [bandStage({ compression: { ratio: 4 } })],
  ],
  [
    'a linear-phase gain',
    [{ kind: 'equalizer', settings: { phase: 'linear', bands: [{ shape: 'bell', gainDb: -18 }] } }],
    [{ kind: 'equalizer', settings: { phase: 'linear', bands: [{ shape: 'bell', gainDb: 18 }] } }],
  ],
])('a jump of %s across its range makes no click above −90 dBFS', (_, before, after) => {
  const output = whileChanging(before, after);
  expect(output.every(Number.isFinite)).toBe(true);
  const steady = Math.max(steadyLevel(before), steadyLevel(after));
  expect(clickLevel(output)).toBeLessThan(Math.max(-90, steady + 6));
});

test.each(['minimum', 'linear'])('dragging a crossover in %s phase makes no click', (phase) => {
  const lane = (frequenciesHz: number[]): Lane => ({
    ...laneOf(bandStage({ compression: { thresholdDbfs: -40, ratio: 4 } }), {
      kind: 'stereo',
      settings: { widthsPercent: [0, 150, 100, 100, 100] },
    }),
    crossovers: crossoversSchema.parse({ frequenciesHz, phase }),
  });
  const steady = (frequenciesHz: number[]) => clickLevel(runLanes(lane(frequenciesHz), lane(frequenciesHz)));
  const [before, after] = [
    [100, 3000],
    [700, 1500],
  ];
  expect(clickLevel(runLanes(lane(before), lane(after)))).toBeLessThan(
    Math.max(-90, steady(before) + 6, steady(after) + 6),
  );
});

test('a change of one band leaves the ringing of the others in place', () => {
  const tone = both(sine(50, -12, 3, RATE));
  const settings = (gainDb: number) =>
    laneOf(
      ...bands(
        { shape: 'highShelf', frequencyHz: 8000, gainDb },
        { shape: 'bell', frequencyHz: 50, gainDb: 6, q: 20 },
        { shape: 'highPass', frequencyHz: 20, slopeDbPerOctave: 24 },
      ),
    );
  const lane = new LaneProcessor(settings(-6), { sampleRate: RATE, maxFrames: 128, meterHops: 0 });
  const peaks: number[] = [];
  for (let at = 0; at + 128 <= tone.left.length; at += 128) {
    if (at === 128 * 700) lane.update(settings(6));
    lane.left.set(tone.left.subarray(at, at + 128));
    lane.process(128);
    // The highest sample of each period of 882 frames; of either sign, so that none falls between two blocks.
    const period = Math.floor(at / 882);
    peaks[period] = Math.max(peaks[period] ?? 0, ...lane.left.map(Math.abs));
  }
  const steady = peaks.slice(95, -1).map(db);
  expect(Math.max(...steady) - Math.min(...steady)).toBeLessThan(0.03);
});

test('a lane that needs other stages or another latency says so', () => {
  const lane = new LaneProcessor(laneOf(...WORKING), { sampleRate: RATE, maxFrames: 128, meterHops: 0 });
  expect(lane.update(laneOf(...WORKING.slice(1)))).toBe(false);
  expect(lane.update(laneOf(...WORKING.slice(0, -1), { kind: 'limiter', settings: { lookAheadMs: 1 } }))).toBe(false);
});

test('joints read the loudness and peak between the stages', () => {
  const tone = both(sine(997, -20, 2, RATE));
  const lane = new LaneProcessor(laneOf({ kind: 'trim', settings: { gainDb: -6 } }), {
    sampleRate: RATE,
    maxFrames: 1024,
    meterHops: 300,
  });
  for (let at = 0; at + 1024 <= tone.left.length; at += 1024) {
    lane.left.set(tone.left.subarray(at, at + 1024));
    lane.right.set(tone.right.subarray(at, at + 1024));
    lane.process(1024);
  }
  const [before, after] = lane.joints.map(({ loudness, peak }) => [loudness.momentary(), db(peak.truePeaks()[0])]);
  expect(before[0]).toBeCloseTo(-20, 1);
  expect(after[0] - before[0]).toBeCloseTo(-6, 6);
  expect(after[1] - before[1]).toBeCloseTo(-6, 4);
});

/** A random stage of random valid settings, from the same schemas that check saved data. */
const quantityBetween = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const anyBand = fc.record({
  shape: fc.constantFrom(...SHAPES),
  part: fc.constantFrom(...valuesOf(equalizerBand.shape.part)),
  on: fc.boolean(),
  frequencyHz: quantityBetween(20, 20000),
  gainDb: quantityBetween(-18, 18),
  q: quantityBetween(0.1, 30),
  slopeDbPerOctave: fc.constantFrom(...SLOPES),
  dynamics: fc.option(
    fc.record({
      thresholdDbfs: quantityBetween(-80, 0),
      rangeDb: quantityBetween(-18, 18),
      attackMs: quantityBetween(0.5, 200),
      releaseMs: quantityBetween(5, 2000),
    }),
  ),
});
const gain = quantityBetween(-24, 24);
/** Any value of every numeric setting of a schema. */
const anyQuantities = (shape: z.ZodRawShape) =>
  fc.record(
    Object.fromEntries(
      quantitiesOf(shape).map((name) => {
        const { min, max } = describeQuantity(shape[name] as z.ZodType);
        return [name, quantityBetween(min, max)];
      }),
    ),
  );
/** Any settings of a kind: its numbers, and what else there is to choose. */
const anyOf = (kind: string, shape: z.ZodRawShape, others: Record<string, fc.Arbitrary<unknown>> = {}) =>
  fc.record({
    kind: fc.constant(kind),
    settings: fc.tuple(anyQuantities(shape), fc.record(others)).map(([numbers, rest]) => ({ ...numbers, ...rest })),
  });
const anyDynamicsBand = fc.record({
  on: fc.boolean(),
  expansion: anyQuantities(bandExpansion.shape),
  compression: anyQuantities(bandCompression.shape),
  limiting: anyQuantities(bandLimiting.shape),
  makeupDb: quantityBetween(-12, 12),
});
const anyOversampling = fc.record({
  listening: fc.constant(1),
  delivery: fc.constantFrom(...OVERSAMPLING_FACTORS),
  phase: fc.constantFrom('linear', 'least'),
});
const five = <T>(each: fc.Arbitrary<T>) => fc.array(each, { minLength: 5, maxLength: 5 });
const anyStage = fc.oneof(
  fc.record({
    kind: fc.constant('trim'),
    settings: fc.record({ gainDb: gain, linked: fc.boolean(), gainLeftDb: gain, gainRightDb: gain }),
  }),
  fc.record({
    kind: fc.constant('equalizer'),
    settings: fc.record({
      bands: fc.array(anyBand, { maxLength: 3 }),
      scalePercent: quantityBetween(0, 200),
      shiftDb: quantityBetween(-12, 12),
      phase: fc.constantFrom(...valuesOf(equalizerSettings.shape.phase)),
    }),
  }),
  anyOf('compressor', compressorSettings.shape, {
    circuit: fc.constantFrom(...valuesOf(compressorSettings.shape.circuit)),
    operation: fc.constantFrom(...valuesOf(compressorSettings.shape.operation)),
    detector: fc.constantFrom(...valuesOf(compressorSettings.shape.detector)),
    autoRelease: fc.boolean(),
  }),
  anyOf('bandDynamics', bandDynamicsSettings.shape, { bands: five(anyDynamicsBand) }),
  anyOf('deEsser', deEsserSettings.shape, {
    part: fc.constantFrom(...valuesOf(deEsserSettings.shape.part)),
    detection: fc.constantFrom(...valuesOf(deEsserSettings.shape.detection)),
    reduction: fc.constantFrom(...valuesOf(deEsserSettings.shape.reduction)),
  }),
  anyOf('stereo', stereoSettings.shape, {
    ...Object.fromEntries(
      ['swap', 'invertLeft', 'invertRight', 'monoBelow', 'sideHighPass'].map((name) => [name, fc.boolean()]),
    ),
    monoShape: fc.constantFrom(...valuesOf(stereoSettings.shape.monoShape)),
    sideSlopeDbPerOctave: fc.constantFrom(...SLOPES),
    widthsPercent: five(quantityBetween(0, 200)),
  }),
  anyOf('room', roomSettings.shape, { impulse: fc.constantFrom('studio', 'hall') }),
  anyOf('saturation', saturationSettings.shape, {
    curve: fc.constantFrom(...CURVES),
    part: fc.constantFrom(...valuesOf(saturationSettings.shape.part)),
    toneUndone: fc.boolean(),
    movement: fc.constantFrom(...valuesOf(saturationSettings.shape.movement)),
    split: fc.constantFrom(...valuesOf(saturationSettings.shape.split)),
    bandDrivesDb: five(gain),
    bandAmountsPercent: five(quantityBetween(0, 100)),
    oversampling: anyOversampling,
  }),
  anyOf('clipper', clipperSettings.shape, {
    curve: fc.constantFrom(...CLIP_CURVES),
    link: fc.constantFrom(...valuesOf(clipperSettings.shape.link)),
    truePeaks: fc.boolean(),
    oversampling: anyOversampling,
  }),
  anyOf('limiter', limiterSettings.shape, {
    detection: fc.constantFrom(...valuesOf(limiterSettings.shape.detection)),
    preLimited: fc.boolean(),
    listenEven: fc.boolean(),
  }),
);
const anyCrossovers = fc.record({
  frequenciesHz: fc.constantFrom([40], [200, 3000], [90, 500, 5000], [60, 250, 1800, 16000]),
  phase: fc.constantFrom(...valuesOf(crossoversSchema.shape.phase)),
});
const INPUTS = [
  both(noise(3000, 1, 3)),
  both(new Float64Array(3000)),
  both(Float64Array.from({ length: 3000 }, (_, i) => (Math.floor(i / 50) % 2 ? 1 : -1))),
  both(new Float64Array(3000).fill(1)),
  both(new Float64Array(3000).fill(5e-324)),
  both(Float64Array.from({ length: 3000 }, (_, i) => (i === 700 ? NaN : 0.1))),
];

test('random lanes give finite numbers of at most +40 dBFS on noise, silence, squares, DC, denormals and after a damaged sample', () => {
  fc.assert(
    fc.property(
      fc.array(anyStage, { minLength: 1, maxLength: 4 }),
      anyCrossovers,
      fc.nat(INPUTS.length - 1),
      (given, crossovers, which) => {
        const input = INPUTS[which];
        const { left, right } = throughLane(input, given, RATE, 128, { crossovers });
        const damaged = input === INPUTS[5];
        const tail = (x: Float64Array) => (damaged ? x.subarray(2600) : x);
        for (const side of [tail(left), tail(right)]) {
          for (const x of side) if (!(Math.abs(x) <= 100)) return false;
        }
        return true;
      },
    ),
    { numRuns: 150, seed: 42 },
  );
});

test('only stages whose settings or crossovers changed are told of an update', () => {
  const before = laneOf(...WORKING);
  const processor = new LaneProcessor(before, { sampleRate: RATE, maxFrames: 128, meterHops: 0 });
  const told: number[] = [];
  // The processors are not to be seen from outside otherwise.
  const inside = processor as unknown as { processors: { update(...given: unknown[]): boolean }[] };
  inside.processors.forEach((stage, i) => {
    const update = stage.update.bind(stage);
    stage.update = (...given) => (told.push(i), update(...given));
  });
  const copy = (change: (lane: Lane) => void) => {
    const lane = structuredClone(before);
    change(lane);
    return lane;
  };
  expect(processor.update(copy(() => {}))).toBe(true);
  expect(told).toEqual([]);
  expect(processor.update(copy(({ stages }) => ((stages[0].settings as { gainDb: number }).gainDb = 5)))).toBe(true);
  expect(told).toEqual([0]);
  told.length = 0;
  expect(processor.update(copy(({ crossovers }) => (crossovers.frequenciesHz = [300, 3000])))).toBe(true);
  const kinds = told.map((i) => before.stages[i].kind);
  expect(kinds).toContain('bandDynamics');
  expect(kinds).not.toContain('equalizer');
  // And the first stage goes back to what it was.
  expect(kinds[0]).toBe('trim');
});
