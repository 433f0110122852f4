// The stages that bend the waveform, against closed forms and their own definitions.
import { Kernels } from '@/core/kernels/host';
import * as layout from '@/core/kernels/layout';
import { CLIP_CURVES, clipped } from '@/core/stages/clipper/curves';
import { CURVE_FORMULAS, CURVES, type Curve } from '@/core/stages/saturation/curves';
import { toneHarmonics } from '@/core/stages/saturation/harmonics';
import { saturationSettings } from '@/core/stages/saturation/settings';
import { aligned, loudnessOf, throughLane, truePeakOf } from '../support/core';
import { both, db, difference, noise, sine } from '../support/signals';
import { spectrumOf } from '../support/spectrum';
import { annex2TruePeak, fineTruePeak } from '../support/true-peak';

const RATE = 48000;
const { PI, abs, asin, cos, hypot, max, sin, sqrt } = Math;
/** A tone of which a second holds whole periods, and the harmonics of it that lie below 20 kHz. */
const TONE = 400;
const HARMONICS = [2, 3, 4, 5, 6, 7, 9, 11, 13, 15];
const FINEST = { listening: 1, delivery: 16 };

/** Levels in dB of the harmonics against the fundamental after a stage, of a tone at a level in dBFS. */
function harmonics(stage: { kind: string; settings: object }, dbfs: number): (n: number) => number {
  const { left } = aligned(both(sine(TONE, dbfs, 1.5, RATE)), [stage], RATE);
  const level = spectrumOf(left.subarray(RATE / 4, RATE / 4 + RATE), RATE);
  const first = level(TONE);
  return (n) => level(n * TONE) - first;
}

const clipper = (settings: object) => ({ kind: 'clipper', settings: { oversampling: FINEST, ...settings } });
const saturation = (settings: object) => ({
  kind: 'saturation',
  settings: { oversampling: FINEST, ...settings },
});

// The Fourier series of a clipped unit sine, θ = asin c: b1 = 2/π (θ + c √(1 − c²)), for odd n ≥ 3
// bn = 2/π [sin((n−1)θ)/(n−1) − sin((n+1)θ)/(n+1)] + 4c/(nπ) cos(nθ); even harmonics 0.
test.each([0.9, 0.5, 0.1])('a hard clip at %f of a sine has the harmonics of the closed form', (c) => {
  const theta = asin(c);
  const first = (2 / PI) * (theta + c * sqrt(1 - c * c));
  const series = (n: number) =>
    (2 / PI) * (sin((n - 1) * theta) / (n - 1) - sin((n + 1) * theta) / (n + 1)) +
    ((4 * c) / (n * PI)) * cos(n * theta);
  const measured = harmonics(clipper({ curve: 'hard', ceilingDbfs: db(c) }), 0);
  for (const n of [3, 5, 7, 9, 11, 13, 15]) {
    // Where the series crosses zero only the size of what is left counts.
    const difference = 10 ** (measured(n) / 20) - abs(series(n) / first);
    expect(db(abs(difference))).toBeLessThan(-80);
  }
  for (const n of [2, 4, 6]) expect(measured(n)).toBeLessThan(-110);
});

test('a sine driven far into a hard clip becomes a square wave: harmonics of 1/n', () => {
  const measured = harmonics(clipper({ curve: 'hard', inputGainDb: 24, ceilingDbfs: -16 }), 0);
  for (const n of [3, 5, 7, 9]) expect(abs(measured(n) - db(1 / n))).toBeLessThan(0.05);
});

test.each(CURVES)('the curve %s keeps to its rule of odd and even harmonics', (curve) => {
  const measured = harmonics(saturation({ curve, driveDb: 9 }), -6);
  const loudest = (list: number[]) => max(...list.map(measured));
  const odd = loudest(HARMONICS.filter((n) => n % 2 === 1));
  const even = loudest(HARMONICS.filter((n) => n % 2 === 0));
  if (curve.startsWith('odd')) expect(even).toBeLessThan(-100);
  if (curve === 'even') expect(odd).toBeLessThan(-100);
  if (curve !== 'even') expect(odd).toBeGreaterThan(-60);
  if (!curve.startsWith('odd')) expect(even).toBeGreaterThan(-60);
});

test.each(CURVES)('the harmonics drawn for a tone are those that the stage makes, %s', (curve) => {
  const settings = saturationSettings.parse({
    curve,
    driveDb: 9,
    mixPercent: 60,
    biasPercent: 20,
    oversampling: FINEST,
  });
  const drawn = toneHarmonics(settings, -6, 8);
  const measured = harmonics({ kind: 'saturation', settings }, -6);
  for (let n = 2; n <= 8; n++) {
    if (drawn[n - 2] > -80) expect(abs(measured(n) - drawn[n - 2])).toBeLessThan(0.1);
    else expect(measured(n)).toBeLessThan(-75);
  }
});

test('bias adds even harmonics to an odd curve, and nothing stands still behind it', () => {
  const stage = saturation({ curve: 'oddFirm', driveDb: 9, biasPercent: 50 });
  expect(harmonics(stage, -6)(2)).toBeGreaterThan(-40);
  const { left } = aligned(both(sine(TONE, -6, 3, RATE)), [stage], RATE);
  const mean = left.subarray(RATE, 2 * RATE).reduce((sum, x) => sum + x, 0) / RATE;
  expect(db(abs(mean))).toBeLessThan(-90);
});

/** What a kernel makes of numbers, against the definition of its curve, in f32. */
function kernelDifference(
  run: (kernels: Kernels, state: number, x: number) => void,
  definition: (x: number) => number,
) {
  const kernels = new Kernels();
  const state = kernels.allocate(64);
  const x = kernels.allocate(4000);
  const values = Float32Array.from({ length: 1000 }, (_, i) => (i - 500) / 100);
  kernels.f32.set(values, x >> 2);
  run(kernels, state, x);
  return difference(
    kernels.f32.subarray(x >> 2, (x >> 2) + 1000),
    Float64Array.from(values, (value) => definition(value)),
  );
}

test.each(CURVES)('the kernel of the curve %s is its definition', (curve: Curve) => {
  const [drive, bias, gain] = [2, 0.25, 0.5];
  const formula = CURVE_FORMULAS[curve];
  const off = kernelDifference(
    (kernels, state, x) => {
      kernels.u32[(state + layout.SHAPE_CURVE) >> 2] = CURVES.indexOf(curve);
      kernels.f32.set([drive, bias, gain], (state + layout.SHAPE_DRIVE) >> 2);
      kernels.run.saturate(state, x, 1000);
    },
    (x) => gain * (formula(drive * x + bias) - formula(bias)),
  );
  expect(db(off)).toBeLessThan(-120);
});

test.each(CLIP_CURVES)(
  'the kernel of the clipping curve %s is its definition, and it never passes the ceiling',
  (curve) => {
    const [ceiling, knee] = [0.8, 0.3];
    const off = kernelDifference(
      (kernels, state, x) => {
        kernels.u32[(state + layout.CLIP_CURVE) >> 2] = CLIP_CURVES.indexOf(curve);
        kernels.f32[(state + layout.CLIP_CEILING) >> 2] = ceiling;
        kernels.f32[(state + layout.CLIP_KNEE) >> 2] = curve === 'hard' ? 0 : knee;
        kernels.run.clip(state, x, 1000);
      },
      (x) => clipped(curve, x, ceiling, knee),
    );
    expect(db(off)).toBeLessThan(-120);
    for (const x of [0.81, 1, 3, 1000]) expect(clipped(curve, x, ceiling, knee)).toBeLessThanOrEqual(ceiling);
    // Straight below the knee, with a slope of 1 where it begins.
    expect(clipped(curve, -0.5, ceiling, knee)).toBeCloseTo(-0.5, 12);
    const begin = ceiling - knee;
    if (curve !== 'hard') expect((clipped(curve, begin + 1e-5, ceiling, knee) - begin) / 1e-5).toBeCloseTo(1, 3);
  },
);

test('the saturation of a side leaves mid alone, and of a band the other bands', () => {
  const mono = both(noise(RATE, 0.3, 5));
  const side = aligned(mono, [saturation({ part: 'side', driveDb: 24 })], RATE);
  expect(db(difference(side.left.subarray(5000, 40000), mono.left.subarray(5000, 40000)))).toBeLessThan(-110);
  const low = sine(TONE, -6, 1.5, RATE);
  const alone = { split: 'bands', bandAmountsPercent: [0, 0, 100, 100, 100], driveDb: 24 };
  const { left } = aligned(both(low), [saturation(alone)], RATE, 1024, { crossovers: { frequenciesHz: [1000, 5000] } });
  const level = spectrumOf(left.subarray(RATE / 4, RATE / 4 + RATE), RATE);
  expect(level(TONE) - level(3 * TONE)).toBeGreaterThan(90);
});

test('what is kept below a corner passes with its own sound', () => {
  const bass = both(sine(50, -6, 1.5, RATE));
  const { left } = aligned(bass, [saturation({ driveDb: 24, protectBelowHz: 500 })], RATE);
  const level = spectrumOf(left.subarray(RATE / 4, RATE / 4 + RATE), RATE);
  const { left: bent } = aligned(bass, [saturation({ driveDb: 24 })], RATE);
  const bentLevel = spectrumOf(bent.subarray(RATE / 4, RATE / 4 + RATE), RATE);
  expect(bentLevel(150) - bentLevel(50)).toBeGreaterThan(-20);
  expect(level(150) - level(50)).toBeLessThan(-40);
});

test('the wet sound keeps a level of −14 dBFS without any makeup', () => {
  const music = both(noise(3 * RATE, 0.2 * sqrt(3), 8));
  const before = loudnessOf(music, RATE).integrated;
  for (const curve of CURVES) {
    for (const driveDb of [0, 12, 30]) {
      const after = loudnessOf(aligned(music, [saturation({ curve, driveDb })], RATE), RATE).integrated;
      expect(abs(after - before)).toBeLessThan(1);
    }
  }
});

test('an amount that follows the level leaves what is quiet alone', () => {
  const stage = saturation({ driveDb: 30, movement: 'level', depthPercent: 100 });
  expect(harmonics(stage, -60)(3)).toBeLessThan(-90);
  expect(harmonics(stage, -6)(3)).toBeGreaterThan(-30);
});

test('an amount that wanders goes through all of its depth', () => {
  const stage = saturation({ driveDb: 30, movement: 'wander', rateHz: 4, depthPercent: 100 });
  const { left } = aligned(both(sine(TONE, -6, 4, RATE)), [stage], RATE);
  const thirds = Array.from({ length: 38 }, (_, i) => {
    const part = left.subarray(4800 * (i + 1), 4800 * (i + 2));
    const level = spectrumOf(part, RATE);
    return level(3 * TONE) - level(TONE);
  });
  expect(max(...thirds)).toBeGreaterThan(-15);
  expect(Math.min(...thirds)).toBeLessThan(max(...thirds) - 10);
});

// Ceilings: within 0.05 dB by Annex 2 and within 0.2 dB by a 32x reference.
describe.each([44100, 96000, 192000])('the clipper with true peaks held, at %i Hz', (rate) => {
  const frames = Math.round(rate * 0.3);
  const cases: [string, Float64Array][] = [
    ['noise', noise(frames, 1, 3)],
    ['clicks', Float64Array.from({ length: frames }, (_, i) => (i % 997 === 0 ? 1 : 0))],
    ['a square wave', Float64Array.from({ length: frames }, (_, i) => (Math.floor(i / 37) % 2 ? 1 : -1))],
    ['a tone at fs/4', sine(rate / 4, 0, 0.3, rate, 45)],
    ['a tone at fs/3', sine(rate / 3, 0, 0.3, rate, 30)],
    ['a sweep', Float64Array.from({ length: frames }, (_, i) => sin((PI * 0.4 * i * i) / frames))],
  ];
  test.each(cases)('%s', (name, x) => {
    const settings = { inputGainDb: 6, ceilingDbfs: -1, truePeaks: true, curve: 'smooth' };
    const { left } = throughLane(both(x), [{ kind: 'clipper', settings }], rate);
    expect(db(annex2TruePeak(left)) + 1).toBeLessThan(0.05);
    if (name !== 'noise') expect(db(fineTruePeak(left.subarray(0, 4096))) + 1).toBeLessThan(0.2);
  });
});

test('the clipper reports what it shaved and how much it touched', () => {
  const tone = sine(TONE, 0, 1, RATE);
  const stage = { kind: 'clipper', settings: { curve: 'hard', ceilingDbfs: -3, oversampling: FINEST } };
  const { reductions, touched } = throughLane(both(tone), [stage], RATE);
  expect(max(...reductions[0])).toBeCloseTo(3, 1);
  // A sine is above c for a share of 1 − 2/π asin c of the time.
  const middle = touched[0].slice(5, -8);
  expect(middle.reduce((a, b) => a + b, 0) / middle.length).toBeCloseTo(1 - (2 / PI) * asin(10 ** (-3 / 20)), 1);
});

test('the clipper holds its output to its input or to its ceiling', () => {
  const quiet = both(noise(RATE, 0.01, 3));
  const level = (settings: object) =>
    db(
      hypot(...aligned(quiet, [clipper(settings)], RATE).left.subarray(9000, 19000)) /
        hypot(...quiet.left.subarray(9000, 19000)),
    );
  expect(level({ inputGainDb: 6, link: 'input', outputGainDb: 9 })).toBeCloseTo(0, 3);
  expect(level({ inputGainDb: 2, ceilingDbfs: -4, link: 'ceiling' })).toBeCloseTo(6, 3);
  expect(truePeakOf(aligned(quiet, [clipper({ outputGainDb: 5 })], RATE))).toBeCloseTo(truePeakOf(quiet) + 5, 3);
});
