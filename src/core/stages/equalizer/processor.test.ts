import { aligned, throughLane } from '../../../../tests/support/core';
import {
  both,
  db,
  difference,
  impulse,
  join,
  noise,
  silence,
  sine,
  type Stereo,
} from '../../../../tests/support/signals';
import { LaneProcessor } from '../../lane/processor';
import { LANE_SCHEMA, parseLane } from '../../lane/schema';
import { sectionsGainDb, bandSections } from './design';
import { linearPhaseLatency } from './linear-phase';
import { equalizerBand, equalizerSettings } from './settings';

const { hypot, max, min, PI, sin, cos } = Math;

const RATE = 44100;
const equalizer = (settings: object) => [{ kind: 'equalizer', settings }];
const dynamics = { thresholdDbfs: -30, rangeDb: -6, attackMs: 5, releaseMs: 80 };
const bell = { shape: 'bell', frequencyHz: 3000, q: 2 };
const sideways = { left: noise(2 * RATE, 0.3, 5), right: noise(2 * RATE, 0.2, 6) };

describe('a band that moves with the level', () => {
  const late = ({ left, right }: Stereo) => ({ left: left.subarray(RATE), right: right.subarray(RATE) });
  const apart = (a: Stereo, b: Stereo) => max(difference(a.left, b.left), difference(a.right, b.right));

  test.each(['bell', 'lowShelf', 'highShelf'])('is the still %s when its threshold is always exceeded', (shape) => {
    const moving = { ...bell, shape, gainDb: 1, dynamics: { ...dynamics, thresholdDbfs: -80 } };
    const still = { ...bell, shape, gainDb: -5 };
    const [a, b] = [moving, still].map((band) => aligned(sideways, equalizer({ bands: [band] }), RATE));
    expect(db(apart(late(a), late(b)))).toBeLessThan(-200);
  });

  test.each(['stereo', 'side'])('on %s does nothing, bit for bit, when its threshold is never exceeded', (part) => {
    const band = { ...bell, part: 'stereo', dynamics: { ...dynamics, thresholdDbfs: 0 } };
    expect(apart(aligned(sideways, equalizer({ bands: [band] }), RATE), sideways)).toBe(0);
    const parted = aligned(sideways, equalizer({ bands: [{ ...band, part }] }), RATE);
    // The way to mid and side and back rounds in the last place.
    expect(db(apart(parted, sideways))).toBeLessThan(-300);
  });

  test.each([
    [-24, -6],
    [-28, -2],
    [-33, 0],
    [-12, -6],
  ])('moves a tone of %s dBFS by %s dB: as many as it is beyond the threshold, up to the range', (level, moved) => {
    const tone = both(sine(3000, level, 2, RATE));
    const heard = late(aligned(tone, equalizer({ bands: [{ ...bell, dynamics }] }), RATE));
    const peak = heard.left.reduce((most, x) => max(most, Math.abs(x)), 0);
    // The level of a tone ripples by a sixth of a dB, and the attack follows its tops.
    expect(Math.abs(db(peak) - level - moved)).toBeLessThan(0.15);
  });

  test('boosts where its range is positive', () => {
    const band = { ...bell, dynamics: { ...dynamics, rangeDb: 4 } };
    const heard = late(aligned(both(sine(3000, -12, 2, RATE)), equalizer({ bands: [band] }), RATE));
    expect(db(heard.left.reduce((most, x) => max(most, x), 0))).toBeCloseTo(-8, 1);
  });

  test.each([
    ['mid', 'side'],
    ['side', 'mid'],
    ['left', 'right'],
    ['right', 'left'],
  ] as const)('on %s leaves %s as it is', (part, other) => {
    const band = { ...bell, part, gainDb: 3, dynamics: { ...dynamics, thresholdDbfs: -60 } };
    const heard = aligned(sideways, equalizer({ bands: [band] }), RATE);
    const signal = { left: sideways.left, right: sideways.right };
    const of = ({ left, right }: Stereo, which: string) =>
      which === 'left'
        ? left
        : which === 'right'
          ? right
          : left.map((l, i) => (which === 'mid' ? l + right[i] : l - right[i]) / 2);
    expect(db(difference(of(heard, other), of(signal, other)))).toBeLessThan(-300);
    expect(db(difference(of(heard, part), of(signal, part)))).toBeGreaterThan(-40);
  });

  test('takes its attack and its release to 63 % of the way', () => {
    const slow = { ...dynamics, attackMs: 40, releaseMs: 200 };
    const lane = parseLane({
      schema: LANE_SCHEMA,
      stages: [{ id: 'a', ...equalizer({ bands: [{ ...bell, dynamics: slow }] })[0] }],
    });
    const processor = new LaneProcessor(lane, { sampleRate: RATE, maxFrames: 128, meterHops: 0 });
    const signal = join(silence(0.1, RATE), sine(3000, -10, 0.6, RATE), silence(1, RATE));
    const moved: number[] = [];
    for (let at = 0; at + 128 <= signal.length; at += 128) {
      processor.left.set(signal.subarray(at, at + 128));
      processor.right.set(signal.subarray(at, at + 128));
      processor.process(128);
      moved.push(processor.movements(0)[0]);
    }
    const secondsUntil = (from: number, reached: (x: number) => boolean) =>
      (moved.findIndex((x, i) => i * 128 >= from * RATE && reached(x)) * 128) / RATE - from;
    const share = 1 - 1 / Math.E;
    expect(min(...moved)).toBeCloseTo(-6, 3);
    // Quanta of 3 ms, and the third of a millisecond in which the level is found.
    expect(secondsUntil(0.1, (x) => x <= -6 * share)).toBeCloseTo(0.04, 2);
    // The band rests on its range while the level falls from 20 dB beyond the threshold to 6 dB.
    expect(secondsUntil(0.7, (x) => x > -6 * (1 - share))).toBeCloseTo(0.2, 1);
    expect(moved.at(-1)).toBeGreaterThan(-0.1);
  });
});

/** Response to an impulse in both channels, in double the time of the latency. */
function response(settings: object, rate: number, sides: Stereo = both(impulse(1))): Stereo {
  const frames = 2 * linearPhaseLatency(rate);
  const padded = (x: Float64Array) => Float64Array.from({ length: frames }, (_, i) => x[i] ?? 0);
  return throughLane({ left: padded(sides.left), right: padded(sides.right) }, equalizer(settings), rate);
}

function gainAt(x: Float64Array, frequency: number, rate: number): number {
  let re = 0;
  let im = 0;
  for (let i = 0; i < x.length; i++) {
    re += x[i] * cos((2 * PI * frequency * i) / rate);
    im += x[i] * sin((2 * PI * frequency * i) / rate);
  }
  return db(hypot(re, im));
}

const SHAPED = [
  { shape: 'highPass', frequencyHz: 30, slopeDbPerOctave: 24 },
  { shape: 'lowShelf', frequencyHz: 100, gainDb: 3 },
  { shape: 'bell', frequencyHz: 220, gainDb: -4, q: 3 },
  { shape: 'bell', frequencyHz: 3400, gainDb: -7, q: 9 },
  { shape: 'tilt', frequencyHz: 900, gainDb: 1 },
  { shape: 'highShelf', frequencyHz: 11000, gainDb: 4 },
  { shape: 'lowPass', frequencyHz: 18000 },
];

describe.each([44100, 96000, 192000])('linear phase at %i Hz', (rate) => {
  const { left } = response({ bands: SHAPED, phase: 'linear' }, rate);
  const centre = linearPhaseLatency(rate);

  test('has a response that is symmetric about its latency', () => {
    let most = 0;
    for (let i = 1; i < centre; i++) most = max(most, Math.abs(left[centre - i] - left[centre + i]));
    expect(db(most)).toBeLessThan(-280);
    expect(left.indexOf(max(...left.subarray(centre - 8, centre + 9)))).toBe(centre);
  });

  test('has the magnitude of minimum phase within 0.05 dB', () => {
    const bands = SHAPED.map((band) => equalizerBand.parse(band));
    const sections = bands.flatMap((band) => bandSections(band, rate));
    for (const f of [20, 25, 30, 40, 60, 100, 180, 220, 300, 700, 1500, 3000, 3400, 3800, 8000, 14000, 19000]) {
      expect(Math.abs(gainAt(left, f, rate) - sectionsGainDb(sections, f, rate))).toBeLessThan(0.05);
    }
  });
});

test('linear phase with nothing to do only delays', () => {
  const heard = aligned(sideways, equalizer({ phase: 'linear' }), RATE);
  expect(db(max(difference(heard.left, sideways.left), difference(heard.right, sideways.right)))).toBeLessThan(-280);
});

test('a band whose range is nothing stands still in linear phase as well, and a moving one keeps its gain', () => {
  const tone = both(sine(3000, -20, 2, RATE));
  const level = (dynamicsOf: object) => {
    const settings = { phase: 'linear', bands: [{ ...bell, gainDb: 3, dynamics: dynamicsOf }] };
    const { left } = aligned(tone, equalizer(settings), RATE);
    return db(left.subarray(RATE, 1.8 * RATE).reduce((most, x) => max(most, x), 0));
  };
  expect(level({ ...dynamics, rangeDb: 0 })).toBeCloseTo(-17, 1);
  expect(level({ ...dynamics, thresholdDbfs: 0 })).toBeCloseTo(-17, 1);
  expect(level({ ...dynamics, thresholdDbfs: -60 })).toBeCloseTo(-23, 1);
});

test('a lane made again with the same bands sounds the same to the bit', () => {
  const settings = {
    phase: 'linear',
    bands: [
      { ...bell, gainDb: 3 },
      { ...bell, part: 'side', gainDb: -2 },
    ],
  };
  const [first, again] = [0, 1].map(() => throughLane(sideways, equalizer(settings), RATE));
  expect(max(difference(first.left, again.left), difference(first.right, again.right))).toBe(0);
});

test.each(['mid', 'side', 'left', 'right'] as const)('linear phase on %s touches it alone', (part) => {
  const bands = [{ shape: 'bell', frequencyHz: 1000, gainDb: 6, q: 1, part }];
  const sides = { left: impulse(1), right: Float64Array.of(0.25) };
  const { left, right } = response({ bands, phase: 'linear' }, RATE, sides);
  const gains = { mid: 0.625, side: 0.375, left: 1, right: 0.25 };
  const heard = {
    left,
    right,
    mid: left.map((l, i) => (l + right[i]) / 2),
    side: left.map((l, i) => (l - right[i]) / 2),
  };
  const pair = part === 'mid' || part === 'side' ? (['mid', 'side'] as const) : (['left', 'right'] as const);
  const sections = bandSections(equalizerBand.parse({ ...bands[0], part: 'stereo' }), RATE);
  for (const each of pair) {
    for (const f of [100, 700, 1000, 9000]) {
      const wanted = each === part ? sectionsGainDb(sections, f, RATE) : 0;
      expect(gainAt(heard[each], f, RATE) - db(gains[each])).toBeCloseTo(wanted, each === part ? 2 : 9);
    }
  }
});

test('the scale of all gains scales what moves, too', () => {
  const tone = both(sine(3000, -10, 2, RATE));
  const half = equalizerSettings.parse({ bands: [{ ...bell, dynamics }], scalePercent: 50 });
  const { left } = aligned(tone, equalizer(half), RATE);
  expect(db(left.subarray(RATE).reduce((most, x) => max(most, x), 0))).toBeCloseTo(-13, 1);
});
