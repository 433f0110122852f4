import { CuttingMeter } from './cutting';

const RATE = 48000;

/** Readings of a sine of an amplitude at a frequency in Hz, `side` of it in opposite phase on the right. */
function measured(hertz: number, amplitude: number, right: (x: number) => number) {
  const meter = new CuttingMeter(RATE);
  const samples = new Float64Array(RATE * 4);
  for (let i = 0; i < RATE * 2; i++) {
    const x = amplitude * Math.sin((2 * Math.PI * hertz * i) / RATE);
    samples[2 * i] = x;
    samples[2 * i + 1] = right(x);
  }
  meter.add(samples);
  return meter.result();
}

test.each([30, 60, 100])('bass at %d Hz: side against mid, whatever its level', (hertz) => {
  expect(measured(hertz, 0.5, (x) => x).bassSideDb).toBe(-Infinity);
  // L = x, R = x/2: side x/4, mid 3x/4.
  expect(measured(hertz, 0.5, (x) => x / 2).bassSideDb).toBeCloseTo(20 * Math.log10(1 / 3), 1);
  expect(measured(hertz, 0.05, (x) => x / 2).bassSideDb).toBeCloseTo(20 * Math.log10(1 / 3), 1);
  expect(measured(hertz, 0.5, () => 0).bassSideDb).toBeCloseTo(0, 1);
});

test('what lies far above the bass does not count as bass', () => {
  expect(measured(1500, 0.5, (x) => -x).bassSideDb).toBe(-Infinity);
});

test('a sine in the side alone reads its RMS level', () => {
  expect(measured(1000, 0.5, (x) => -x).sideDbfs).toBeCloseTo(20 * Math.log10(0.5 / Math.SQRT2), 1);
  expect(measured(1000, 0.5, (x) => x).sideDbfs).toBe(-Infinity);
});

test('sibilance is what lies from 6 to 12 kHz, in the louder channel', () => {
  const level = 20 * Math.log10(0.25 / Math.SQRT2);
  expect(measured(8500, 0.25, () => 0).sibilanceDbfs).toBeCloseTo(level, 0);
  expect(measured(3000, 0.25, (x) => x).sibilanceDbfs).toBeLessThan(level - 20);
  expect(measured(20000, 0.25, (x) => x).sibilanceDbfs).toBeLessThan(level - 12);
});
