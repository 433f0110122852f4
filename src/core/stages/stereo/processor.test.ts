import { aligned } from '../../../../tests/support/core';
import { both, db, difference, noise, sine, type Stereo } from '../../../../tests/support/signals';
import { Kernels } from '../../kernels/host';
import { correlationOf, ImageMeter } from '../../measure/image';
import { DEFAULT_CROSSOVERS } from '../bands/crossovers';

const RATE = 48000;
const signal: Stereo = { left: noise(2 * RATE, 0.3, 1), right: noise(2 * RATE, 0.3, 2) };
const through = (settings: object, input = signal) => aligned(input, [{ kind: 'stereo', settings }], RATE);
const widths = (...percent: number[]) => ({
  widthsPercent: [...percent, ...new Array<number>(5 - percent.length).fill(100)],
});
const mid = ({ left, right }: Stereo) => left.map((x, i) => (x + right[i]) / 2);
const side = ({ left, right }: Stereo) => left.map((x, i) => (x - right[i]) / 2);
const expectNear = (a: Float64Array, b: Float64Array) => expect(db(difference(a, b))).toBeLessThan(-280);

test('one width for all bands is a gain of the side, exactly', () => {
  for (const width of [0, 50, 150, 200]) {
    const result = through(widths(width, width, width));
    expectNear(mid(result), mid(signal));
    expectNear(
      side(result),
      side(signal).map((x) => (x * width) / 100),
    );
  }
});

test('mid/side balance, trims, swap and polarity, exactly', () => {
  const balanced = through({ midSideDb: 6 });
  expectNear(
    mid(balanced),
    mid(signal).map((x) => x * 10 ** (-3 / 20)),
  );
  expectNear(
    side(balanced),
    side(signal).map((x) => x * 10 ** (3 / 20)),
  );
  const trimmed = through({ leftDb: -3, rightDb: 2, invertRight: true });
  expectNear(
    trimmed.left,
    signal.left.map((x) => x * 10 ** (-3 / 20)),
  );
  expectNear(
    trimmed.right,
    signal.right.map((x) => -x * 10 ** (2 / 20)),
  );
  const swapped = through({ swap: true });
  expect(difference(swapped.left, signal.right)).toBe(0);
  expect(difference(swapped.right, signal.left)).toBe(0);
});

const gainOf = (x: Float64Array, y: Float64Array) => {
  const energy = (of: Float64Array) => of.subarray(RATE).reduce((sum, v) => sum + v * v, 0);
  return 10 * Math.log10(energy(y) / energy(x));
};
/** Gain in dB of the side at a frequency. */
const sideGain = (settings: object, frequencyHz: number) => {
  const tone = sine(frequencyHz, -12, 2, RATE);
  return gainOf(tone, side(through(settings, { left: tone, right: tone.map((x) => -x) })));
};

test.each(['gentle', 'medium', 'steep'] as const)(
  'mono below: the side falls at both corners (%s), and the mono sum stays as it is',
  (monoShape) => {
    const order = { gentle: 1, medium: 2, steep: 4 }[monoShape];
    const settings = { monoBelow: true, monoUpperHz: 200, monoLowerHz: 50, monoShape };
    // Butterworth high-passes, one after another.
    const pass = (hz: number, corner: number) => -10 * Math.log10(1 + (corner / hz) ** (2 * order));
    for (const hz of [40, 100, 200, 400, 3000])
      expect(sideGain(settings, hz)).toBeCloseTo(pass(hz, 200) + pass(hz, 50), 0);
    expectNear(mid(through(settings)), mid(signal));
  },
);

test('the side’s high-pass has its slope', () => {
  const settings = { sideHighPass: true, sideHighPassHz: 800, sideSlopeDbPerOctave: 24 };
  expect(sideGain(settings, 800)).toBeCloseTo(-3.01, 1);
  expect(sideGain(settings, 200)).toBeCloseTo(-48.2, 0);
  expect(sideGain(settings, 5000)).toBeCloseTo(0, 1);
});

test('a width of its own for each band; the middle of every band keeps its level', () => {
  const settings = widths(0, 100, 200);
  expect(sideGain(settings, 30)).toBeLessThan(-45);
  expect(sideGain(settings, 630)).toBeCloseTo(0, 0);
  expect(sideGain(settings, 15000)).toBeCloseTo(6.02, 1);
  for (const hz of [30, 160, 630, 2500, 15000]) {
    const tone = both(sine(hz, -12, 2, RATE));
    expect(gainOf(tone.left, mid(through(settings, tone)))).toBeCloseTo(0, 3);
  }
});

test('correlation of known signals', () => {
  expect(correlationOf(2, 2, 2)).toBe(1);
  expect(correlationOf(2, 8, -4)).toBe(-1);
  expect(correlationOf(1, 1, 0)).toBe(0);
  expect(correlationOf(0, 1, 0)).toBeNaN();
});

test.each<[string, Stereo, number, number]>([
  ['the same on both sides', both(signal.left), 1, 0],
  ['inverted', { left: signal.left, right: signal.left.map((x) => -x) }, -1, Infinity],
  ['independent noise', signal, 0, 3.01],
  ['a quarter of a period apart', { left: sine(1000, -12, 2, RATE), right: sine(1000, -12, 2, RATE, 90) }, 0, 3.01],
])('the image of %s', (_, { left, right }, correlation, lost) => {
  const kernels = new Kernels();
  const meter = new ImageMeter(kernels, RATE, DEFAULT_CROSSOVERS, 300);
  const [l, r] = [kernels.allocate(8192), kernels.allocate(8192)];
  for (let at = 0; at + 1024 <= left.length; at += 1024) {
    kernels.view64(l, 1024).set(left.subarray(at, at + 1024));
    kernels.view64(r, 1024).set(right.subarray(at, at + 1024));
    meter.add(l, r, 1024);
  }
  const image = meter.result();
  expect(image.correlation).toHaveLength(19);
  for (const value of image.correlation) expect(Math.abs(value - correlation)).toBeLessThan(0.06);
  expect(image.bands).toHaveLength(3);
  expect(image.bands[1][10]).toBeCloseTo(correlation, 0);
  if (lost === Infinity) expect(image.foldDownLu).toBe(Infinity);
  else expect(Math.abs(image.foldDownLu - lost)).toBeLessThan(0.1);
});
