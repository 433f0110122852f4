// Filter impulses against the analogue prototypes of the Audio EQ Cookbook (W3C note; formulas from memory) and SciPy.
import { effectiveBands, equalizerBand, type EqualizerBand } from '@/core/stages/equalizer/settings';
import { bandSections, sectionsGainDb } from '@/core/stages/equalizer/design';
import { throughLane } from '../support/core';
import { db, difference, noise, type Stereo } from '../support/signals';
import { python } from '../support/python';

// Taken out once: looking Math up in a test's sandbox costs many times what the function does.
const { PI, abs, ceil, cos, hypot, sin, sqrt } = Math;

const RATES = [44100, 48000, 96000, 192000];
const band = (part: Partial<EqualizerBand>) => equalizerBand.parse({ shape: 'bell', ...part });

/** Magnitude in dB of what the equalizer's sound does at frequencies, from its impulse response. */
function measured(bands: EqualizerBand[], frequencies: number[], rate: number): number[] {
  // Long enough for a steep high-pass at 30 Hz to ring out.
  const frames = ceil(rate / 2048) * 1024;
  const impulse = () => Float64Array.from({ length: frames }, (_, i) => (i === 0 ? 1 : 0));
  const { left } = throughLane(
    { left: impulse(), right: impulse() },
    [{ kind: 'equalizer', settings: { bands } }],
    rate,
  );
  return frequencies.map((f) => {
    const w = (2 * PI * f) / rate;
    let re = 0;
    let im = 0;
    for (let i = 0; i < frames; i++) {
      re += left[i] * cos(w * i);
      im -= left[i] * sin(w * i);
    }
    return db(hypot(re, im));
  });
}

/** Cookbook prototypes H(s) as [numerator, denominator], highest power first. */
function cookbook({ shape, gainDb, q }: EqualizerBand): [number[], number[]] {
  const a = 10 ** (gainDb / 40);
  const r = sqrt(a) / q;
  if (shape === 'bell')
    return [
      [1, a / q, 1],
      [1, 1 / (a * q), 1],
    ];
  if (shape === 'lowShelf')
    return [
      [a, a * r, a * a],
      [a, r, 1],
    ];
  return [
    [a * a, a * r, a],
    [1, r, a],
  ];
}

function analogueDb(of: EqualizerBand, f: number): number {
  const magnitude = ([c2, c1, c0]: number[], w: number) => hypot(c0 - c2 * w * w, c1 * w);
  const [numerator, denominator] = cookbook(of);
  const w = f / of.frequencyHz;
  return db(magnitude(numerator, w) / magnitude(denominator, w));
}

const FREQUENCIES = [20, 50, 100, 200, 500, 1000, 2000, 3400, 5000, 8000, 10000, 12000, 14000, 16000];
const CASES: Partial<EqualizerBand>[] = [
  { shape: 'bell', frequencyHz: 3400, gainDb: -7, q: 9 },
  { shape: 'bell', frequencyHz: 100, gainDb: 3, q: 0.7 },
  { shape: 'bell', frequencyHz: 12000, gainDb: 6, q: 1 },
  { shape: 'lowShelf', frequencyHz: 120, gainDb: 4, q: 0.71 },
  { shape: 'lowShelf', frequencyHz: 200, gainDb: -4, q: 0.71 },
  { shape: 'highShelf', frequencyHz: 11000, gainDb: 3, q: 0.71 },
  { shape: 'highShelf', frequencyHz: 8000, gainDb: -6, q: 0.71 },
];

describe.each(RATES)('at %i Hz', (rate) => {
  test.each(CASES)('%p follows the analogue curve to 16 kHz', (part) => {
    const settings = band(part);
    const heard = measured([settings], FREQUENCIES, rate);
    FREQUENCIES.forEach((f, i) => {
      // Within 0.15 dB up to 5 kHz, and 0.35 dB up to 16 kHz, which at 44.1 kHz is most of the way to Nyquist.
      expect(abs(heard[i] - analogueDb(settings, f))).toBeLessThan(f <= 5000 ? 0.15 : 0.35);
    });
  });

  test('a bell has its gain exactly at its centre, a shelf half of it at its midpoint', () => {
    for (const gainDb of [-12, -3, 2, 9]) {
      expect(measured([band({ frequencyHz: 1000, gainDb, q: 2 })], [1000], rate)[0]).toBeCloseTo(gainDb, 2);
      expect(measured([band({ shape: 'lowShelf', frequencyHz: 300, gainDb })], [300], rate)[0]).toBeCloseTo(
        gainDb / 2,
        1,
      );
      expect(measured([band({ shape: 'highShelf', frequencyHz: 5000, gainDb })], [5000], rate)[0]).toBeCloseTo(
        gainDb / 2,
        1,
      );
    }
  });

  test('high-pass and low-pass are Butterworth: −3.01 dB at the corner, SciPy elsewhere', () => {
    const settings = [6, 12, 18, 24, 30, 36, 42, 48].flatMap((slopeDbPerOctave) => [
      band({ shape: 'highPass', frequencyHz: 30, slopeDbPerOctave: slopeDbPerOctave as 12 }),
      band({ shape: 'lowPass', frequencyHz: 9000, slopeDbPerOctave: slopeDbPerOctave as 12 }),
    ]);
    const points = [10, 20, 30, 60, 1000, 5000, 9000, 12000];
    const scipy = python<number[][]>(
      `import json, sys, numpy as np
from scipy import signal
cases, points = json.load(sys.stdin)
print(json.dumps([(20*np.log10(np.abs(signal.freqs(*signal.butter(n, f, t, analog=True), worN=points)[1]))).tolist() for n, f, t in cases]))`,
      [
        settings.map(({ shape, frequencyHz, slopeDbPerOctave }) => [
          slopeDbPerOctave / 6,
          frequencyHz,
          shape === 'highPass' ? 'highpass' : 'lowpass',
        ]),
        points,
      ],
    );
    settings.forEach((each, k) => {
      const heard = measured([each], points, rate);
      expect(heard[points.indexOf(each.frequencyHz)]).toBeCloseTo(-3.01, 1);
      points.forEach((f, i) => {
        if (scipy[k][i] > -80) expect(abs(heard[i] - scipy[k][i])).toBeLessThan(f > 10000 ? 0.75 : 0.2);
      });
    });
  });
});

describe.each(RATES)('other shapes at %i Hz', (rate) => {
  const points = [50, 200, 500, 900, 1000, 1100, 2000, 5000, 9000, 12000];

  test('a band-pass is 0 dB at its centre and follows the analogue curve', () => {
    const heard = measured([band({ shape: 'bandPass', frequencyHz: 1000, q: 2 })], points, rate);
    points.forEach((f, i) => {
      const w = f / 1000;
      expect(abs(heard[i] - db(w / 2 / hypot(1 - w * w, w / 2)))).toBeLessThan(f > 5000 ? 0.75 : 0.15);
    });
  });

  test('a notch is silent at its centre, −3.01 dB at the edges of its bandwidth, and leaves the rest', () => {
    const heard = measured(
      [band({ shape: 'notch', frequencyHz: 1000, q: 10 })],
      [1000, 951.25, 1051.25, 100, 9000],
      rate,
    );
    expect(heard[0]).toBeLessThan(-80);
    expect(abs(heard[1] + 3.01)).toBeLessThan(0.1);
    expect(abs(heard[2] + 3.01)).toBeLessThan(0.1);
    expect(abs(heard[3])).toBeLessThan(0.01);
    expect(abs(heard[4])).toBeLessThan(0.01);
  });

  test.each([3, -3])('a tilt of %f dB lowers one end by what it lifts the other', (gainDb) => {
    const heard = measured([band({ shape: 'tilt', frequencyHz: 1000, gainDb })], points, rate);
    const a = 10 ** (gainDb / 20);
    points.forEach((f, i) => {
      const w = f / 1000;
      expect(abs(heard[i] - db(hypot(1, a * w) / hypot(a, w)))).toBeLessThan(0.1);
    });
    expect(abs(heard[points.indexOf(1000)])).toBeLessThan(0.05);
  });
});

describe('parts', () => {
  const signal = { left: noise(8000, 0.5, 1), right: noise(8000, 0.5, 2) };
  const through = (part: EqualizerBand['part']) =>
    throughLane(signal, [{ kind: 'equalizer', settings: { bands: [band({ part, gainDb: 6, q: 1 })] } }], 48000);
  const mid = ({ left, right }: Stereo) => left.map((x, i) => (x + right[i]) / 2);
  const side = ({ left, right }: Stereo) => left.map((x, i) => (x - right[i]) / 2);
  const same = (x: Float64Array, y: Float64Array) => db(difference(x.subarray(0, 8000), y.subarray(0, 8000)));

  test('a band on one side leaves the other bit for bit', () => {
    expect(difference(through('left').right.subarray(0, 8000), signal.right)).toBe(0);
    expect(difference(through('right').left.subarray(0, 8000), signal.left)).toBe(0);
  });

  test('a band on mid leaves side to the last bits of float64, and the other way round', () => {
    expect(same(side(through('mid')), side(signal))).toBeLessThan(-300);
    expect(same(mid(through('side')), mid(signal))).toBeLessThan(-300);
    expect(same(mid(through('mid')), mid(through('stereo')))).toBeLessThan(-250);
  });

  test('all gains scale and shift in decibels; 0 % passes the signal untouched', () => {
    const bands = [band({ frequencyHz: 1000, gainDb: 4, q: 1 })];
    const curve = (scalePercent: number, shiftDb = 0) =>
      sectionsGainDb(
        effectiveBands({ bands, scalePercent, shiftDb }).flatMap((each) => bandSections(each, 48000)),
        1000,
        48000,
      );
    expect(curve(50)).toBeCloseTo(2, 6);
    expect(curve(200)).toBeCloseTo(8, 6);
    expect(curve(100, -1)).toBeCloseTo(3, 6);
    expect(curve(50, 3)).toBeCloseTo(5, 6);
    const { left } = throughLane(signal, [{ kind: 'equalizer', settings: { bands, scalePercent: 0 } }], 48000);
    expect(difference(left.subarray(0, 8000), signal.left)).toBe(0);
  });
});

test('the error near Nyquist at 44.1 kHz is what the documentation states', () => {
  const bell = band({ frequencyHz: 16000, gainDb: 6, q: 1 });
  const shelf = band({ shape: 'highShelf', frequencyHz: 12000, gainDb: 6 });
  const error = (of: EqualizerBand, f: number) =>
    abs(sectionsGainDb(bandSections(of, 44100), f, 44100) - analogueDb(of, f));
  expect(error(bell, 16000)).toBeLessThan(0.01);
  expect(error(bell, 20000)).toBeLessThan(0.5);
  expect(error(shelf, 16000)).toBeLessThan(0.25);
  expect(error(shelf, 20000)).toBeLessThan(0.25);
});

test('a cut undoes the same boost', () => {
  for (const shape of ['bell', 'lowShelf', 'highShelf'] as const) {
    const sections = [6, -6].flatMap((gainDb) => bandSections(band({ shape, frequencyHz: 9000, gainDb, q: 1 }), 44100));
    for (const f of FREQUENCIES) expect(sectionsGainDb(sections, f, 44100)).toBeCloseTo(0, 9);
  }
});

test('the drawn curve is the curve that is heard', () => {
  const bands = CASES.map(band);
  const sections = bands.flatMap((each) => bandSections(each, 44100));
  const heard = measured(bands, FREQUENCIES, 44100);
  FREQUENCIES.forEach((f, i) => expect(sectionsGainDb(sections, f, 44100)).toBeCloseTo(heard[i], 3));
});
