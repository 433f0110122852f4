// Curves against the analogue prototypes of the Audio EQ Cookbook (W3C note; formulas from memory) and of Butterworth, over
// the whole range of every setting. The prototypes are evaluated here again, in complex numbers, from their formulas.
import { compressorDesign } from '@/core/stages/compressor/design';
import { compressorSettings } from '@/core/stages/compressor/settings';
import { bandSections } from '@/core/stages/equalizer/design';
import { equalizerBand, SLOPES, type EqualizerBand } from '@/core/stages/equalizer/settings';
import { roomSettings } from '@/core/stages/room/settings';
import { describe as describeQuantity } from '@/core/stages/setting';
import type { Biquad } from '@/core/signal/biquad';
import { throughLane } from '../support/core';

// Taken out once: looking Math up in a test's sandbox costs many times what the functions do.
const { abs, cos, sin, hypot, log10, sqrt, max, PI } = Math;

type Band = Pick<EqualizerBand, 'shape' | 'frequencyHz' | 'gainDb' | 'q' | 'slopeDbPerOctave'>;

/** |n2·s² + n1·s + n0| at s = i·w. */
const size = (n2: number, n1: number, n0: number, w: number) => hypot(n0 - n2 * w * w, n1 * w);

/** Q of a pass of 12 dB per octave: 0.71 stands for Butterworth. */
const passQ = (q: number) => (q === 0.71 ? Math.SQRT1_2 : q);

/** Magnitude in dB of a band's prototype at a frequency in Hz. */
function analogueDb({ shape, frequencyHz, gainDb, q, slopeDbPerOctave }: Band, f: number): number {
  const w = f / frequencyHz;
  const a = 10 ** (gainDb / 40);
  const r = sqrt(a) / q;
  const db = (ratio: number) => 20 * log10(ratio);
  switch (shape) {
    case 'bell':
      return db(size(1, a / q, 1, w) / size(1, 1 / (a * q), 1, w));
    case 'lowShelf':
      return db((a * size(1, r, a, w)) / size(a, r, 1, w));
    case 'highShelf':
      return db((a * size(a, r, 1, w)) / size(1, r, a, w));
    case 'tilt':
      return db(hypot(1, a * a * w) / hypot(a * a, w));
    case 'bandPass':
      return db(w / q / size(1, 1 / q, 1, w));
    case 'notch':
      return db(abs(1 - w * w) / size(1, 1 / q, 1, w));
    case 'highPass':
      if (slopeDbPerOctave === 12) return db((w * w) / size(1, 1 / passQ(q), 1, w));
      return -10 * log10(1 + w ** ((-2 * slopeDbPerOctave) / 6));
    case 'lowPass':
      if (slopeDbPerOctave === 12) return db(1 / size(1, 1 / passQ(q), 1, w));
      return -10 * log10(1 + w ** ((2 * slopeDbPerOctave) / 6));
  }
}

/** Magnitude in dB of sections, by their transfer function on the unit circle. */
function digitalDb(sections: readonly Biquad[], f: number, rate: number): number {
  const w = (2 * PI * f) / rate;
  const [c1, s1, c2, s2] = [cos(w), sin(w), cos(2 * w), sin(2 * w)];
  let db = 0;
  for (const { b0, b1, b2, a1, a2 } of sections)
    db +=
      20 * log10(hypot(b0 + b1 * c1 + b2 * c2, b1 * s1 + b2 * s2) / hypot(1 + a1 * c1 + a2 * c2, a1 * s1 + a2 * s2));
  return db;
}

const steps = (from: number, to: number, count: number) =>
  Array.from({ length: count }, (_, i) => from * (to / from) ** (i / (count - 1)));
/** The audible range, and the neighbourhood of the band's centre by its bandwidth. */
const looks = ({ frequencyHz, q }: Band) =>
  [...steps(20, 20000, 70), ...[-4, -2, -1, -0.5, -0.1, 0.1, 0.5, 1, 2, 4].map((e) => frequencyHz * (1 + e / (2 * q)))]
    // A notch is silent at its centre.
    .filter((f) => f >= 20 && f <= 20000);

/** Below this nothing is heard of a band. */
const SILENT_DB = -100;

/** The largest error of a band at a sample rate in dB. */
function error(band: Band, rate: number): number {
  const sections = bandSections(equalizerBand.parse(band), rate);
  let worst = 0;
  for (const f of looks(band)) {
    const wanted = analogueDb(band, f);
    if (wanted > SILENT_DB) worst = max(worst, abs(digitalDb(sections, f, rate) - wanted));
  }
  return worst;
}

const FREQUENCIES = steps(20, 20000, 37);
const QS = [0.3, 0.5, 0.71, 1, 2, 4, 7, 10];
const OTHER_QS = [0.1, 0.2, 15, 30];
const GAINS = [-18, -9, -3, -0.5, 0.5, 3, 9, 18];
const bands = (shape: Band['shape'], qs: number[], gains: number[], slopes: readonly Band['slopeDbPerOctave'][]) =>
  FREQUENCIES.flatMap((frequencyHz) =>
    qs.flatMap((q) =>
      gains.flatMap((gainDb) =>
        slopes.map((slopeDbPerOctave): Band => ({ shape, frequencyHz, q, gainDb, slopeDbPerOctave })),
      ),
    ),
  );

const SHAPES: [
  Band['shape'],
  qs: number[],
  others: number[],
  gains: number[],
  slopes: readonly Band['slopeDbPerOctave'][],
][] = [
  ['bell', QS, OTHER_QS, GAINS, [12]],
  ['lowShelf', QS, OTHER_QS, GAINS, [12]],
  ['highShelf', QS, OTHER_QS, GAINS, [12]],
  ['tilt', [1], [], GAINS, [12]],
  ['bandPass', QS, OTHER_QS, [0], [12]],
  ['notch', QS, OTHER_QS, [0], [12]],
  ['highPass', [0.71], [], [0], SLOPES],
  ['lowPass', [0.71], [], [0], SLOPES],
  ['highPass', QS, OTHER_QS, [0], [12]],
  ['lowPass', QS, OTHER_QS, [0], [12]],
];

describe.each([44100, 48000])('at %i Hz up to 20 kHz', (rate) => {
  test.each(SHAPES)(
    'every %s is within 0.1 dB of its prototype, within 0.3 dB for extreme Q',
    (shape, qs, others, gains, slopes) => {
      // The higher rate is the easier one: a part of the grid is enough.
      const some = <T>(all: readonly T[]) => (rate === 44100 ? all : all.filter((_, i) => i % 3 === 0));
      const worst = some(bands(shape, qs, gains, slopes)).map((band) => ({ ...band, error: error(band, rate) }));
      expect(worst.filter((each) => !(each.error <= 0.1))).toEqual([]);
      const wide = some(bands(shape, others, gains, slopes)).map((band) => ({ ...band, error: error(band, rate) }));
      expect(wide.filter((each) => !(each.error <= 0.3))).toEqual([]);
    },
  );
});

test.each([
  ['lowPass', { slopeDbPerOctave: 48 }],
  ['lowPass', { slopeDbPerOctave: 12 }],
  ['highShelf', { gainDb: 3, q: 0.71 }],
  ['bell', { gainDb: -9, q: 2 }],
  ['notch', { q: 1 }],
] as const)('a %s %p does not jump while its handle is dragged', (shape, part) => {
  const at = (frequencyHz: number): Band => ({ shape, frequencyHz, gainDb: 0, q: 0.71, slopeDbPerOctave: 12, ...part });
  let before: number[] = [];
  for (const hz of steps(200, 20000, 900)) {
    const band = at(hz);
    const sections = bandSections(equalizerBand.parse(band), 44100);
    // What the curve is off: were it to jump from one step to the next, this would.
    const off = steps(20, 20000, 12).map((f) =>
      analogueDb(band, f) > SILENT_DB ? digitalDb(sections, f, 44100) - analogueDb(band, f) : 0,
    );
    off.forEach((now, i) => expect(abs(now - (before[i] ?? now))).toBeLessThan(0.1));
    before = off;
  }
});

test('what is heard of three sections is their curve', () => {
  const band: Band = { shape: 'lowPass', frequencyHz: 16000, gainDb: 0, q: 1, slopeDbPerOctave: 48 };
  expect(bandSections(equalizerBand.parse(band), 44100)).toHaveLength(12);
  const impulse = () => Float64Array.from({ length: 4096 }, (_, i) => (i === 0 ? 1 : 0));
  const { left } = throughLane(
    { left: impulse(), right: impulse() },
    [{ kind: 'equalizer', settings: { bands: [band] } }],
    44100,
  );
  for (const f of [100, 8000, 14000, 16000, 18000, 20000]) {
    let [re, im] = [0, 0];
    left.forEach((x, i) => {
      re += x * cos((2 * PI * f * i) / 44100);
      im += x * sin((2 * PI * f * i) / 44100);
    });
    expect(abs(20 * log10(hypot(re, im)) - analogueDb(band, f))).toBeLessThan(0.1);
  }
});

test('the filters of a room hold to the same', () => {
  for (const [shape, schema] of [
    ['highPass', roomSettings.shape.highPassHz],
    ['lowPass', roomSettings.shape.lowPassHz],
  ] as const) {
    const range = describeQuantity(schema);
    for (const frequencyHz of steps(range.min, range.max, 20)) {
      const dry = { kind: 'room', settings: { wetDb: 0, impulse: 'file', file: 'unit' } };
      const filters = { highPassHz: 20, lowPassHz: 20000, [`${shape}Hz`]: frequencyHz };
      const impulse = () => Float64Array.from({ length: 8192 }, (_, i) => (i === 0 ? 1 : 0));
      const unit = { left: Float32Array.of(1), right: Float32Array.of(1) };
      const { left, latency } = throughLane(
        { left: impulse(), right: impulse() },
        [{ ...dry, settings: { ...dry.settings, ...filters, preDelayMs: 0 } }],
        44100,
        1024,
        { impulses: new Map([['unit', unit]]) },
      );
      // The untouched sound lies beside what is filtered: it is taken off again.
      for (const f of [1000, 5000, 12000, 16000, 19000]) {
        let [re, im] = [0, 0];
        left.forEach((x, i) => {
          const wet = x - (i === latency ? 1 : 0);
          re += wet * cos((2 * PI * f * (i - latency)) / 44100);
          im -= wet * sin((2 * PI * f * (i - latency)) / 44100);
        });
        const band = (of: 'highPass' | 'lowPass', hz: number): Band => ({
          shape: of,
          frequencyHz: hz,
          gainDb: 0,
          q: 0.71,
          slopeDbPerOctave: 12,
        });
        const wanted =
          analogueDb(band('highPass', filters.highPassHz), f) + analogueDb(band('lowPass', filters.lowPassHz), f);
        if (wanted > -60) expect(abs(20 * log10(hypot(re, im)) - wanted)).toBeLessThan(0.1);
      }
    }
  }
});

test('the filters ahead of a compressor’s detector hold to the same', () => {
  for (const sideChainHighPassHz of steps(21, 500, 12)) {
    for (const sideChainTiltDb of [-6, -3, 0, 3, 6]) {
      const settings = compressorSettings.parse({ sideChainHighPassHz, sideChainTiltDb });
      const { sideChain } = compressorDesign(settings, 44100);
      const band = { gainDb: sideChainTiltDb, q: 0.71, slopeDbPerOctave: 12 } as const;
      for (const f of steps(20, 20000, 60)) {
        const wanted =
          analogueDb({ ...band, shape: 'highPass', frequencyHz: sideChainHighPassHz }, f) +
          analogueDb({ ...band, shape: 'tilt', frequencyHz: 1000 }, f);
        expect(abs(digitalDb(sideChain, f, 44100) - wanted)).toBeLessThan(0.1);
      }
    }
  }
});
