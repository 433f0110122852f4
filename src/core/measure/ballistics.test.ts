import { join, silence, sine } from '../../../tests/support/signals';
import { PPM_TYPES, PpmMeter } from './ppm';
import { VuMeter } from './vu';

const RATES = [44100, 48000, 96000];
/** Readings each millisecond while something is played. */
function readings(meter: VuMeter | PpmMeter, samples: Float64Array, rate: number): number[] {
  const step = rate / 1000;
  const all: number[] = [];
  for (let ms = 0; (ms + 1) * step <= samples.length; ms++) {
    meter.add(samples.subarray(Math.round(ms * step), Math.round((ms + 1) * step)));
    all.push(meter.levelDbfs);
  }
  return all;
}
const ratio = (db: number) => 10 ** (db / 20);

describe.each(RATES)('at %d Hz', (rate) => {
  test('a VU reaches 99 % of a steady tone after 300 ms and overshoots by 1 to 1.5 % (IEC 60268-17, from memory)', () => {
    const all = readings(new VuMeter(rate), sine(1000, -18, 3, rate), rate);
    const end = all[all.length - 1];
    expect(end).toBeCloseTo(-18, 1);
    const shares = all.map((db) => ratio(db - end));
    expect(Math.abs(shares.findIndex((share) => share >= 0.99) - 300)).toBeLessThan(10);
    const most = Math.max(...shares);
    expect(most).toBeGreaterThan(1.01);
    expect(most).toBeLessThan(1.015);
  });

  test('a VU falls as it rises', () => {
    const meter = new VuMeter(rate);
    const all = readings(meter, join(sine(1000, -18, 3, rate), silence(2, rate)), rate);
    const end = ratio(-18);
    expect(ratio(all[3000 + 300]) / end).toBeLessThan(0.015);
    expect(meter.levelDbfs).toBeLessThan(-60);
  });

  test.each([
    ['I', 5, -2, 0.3],
    ['I', 10, -1, 0.6],
    ['I', 3, -4, 0.6],
    ['I', 0.4, -15, 1.5],
    ['II', 10, -2, 0.3],
    ['II', 5, -4, 0.75],
  ] as const)('a PPM of type %s reads a burst of %d ms at %d dB (IEC 60268-10, from memory)', (type, ms, db, off) => {
    const meter = new PpmMeter(type, rate);
    const burst = sine(5000, -6, ms / 1000, rate);
    meter.add(burst);
    expect(Math.abs(meter.levelDbfs - -6 - db)).toBeLessThan(off);
  });

  test.each([
    ['I', 20, 1.7],
    ['II', 24, 2.8],
  ] as const)('a PPM of type %s falls by %d dB in %d s', (type, db, seconds) => {
    const all = readings(new PpmMeter(type, rate), join(sine(1000, 0, 1, rate), silence(4, rate)), rate);
    expect(all[999 + 1000 * seconds] - all[999]).toBeCloseTo(-db, 1);
  });

  test('all read a steady sine alike, at any frequency', () => {
    for (const hz of [100, 1000, 10000]) {
      const tone = sine(hz, -9, 3, rate);
      for (const meter of [new VuMeter(rate), ...PPM_TYPES.map((type) => new PpmMeter(type, rate))]) {
        meter.add(tone);
        expect(Math.abs(meter.levelDbfs + 9)).toBeLessThan(0.25);
      }
    }
  });
});

test('silence, and numbers that are none, leave nothing behind', () => {
  for (const meter of [new VuMeter(48000), new PpmMeter('I', 48000)]) {
    meter.add(Float32Array.of(0.5, NaN, Infinity));
    meter.add(new Float32Array(48000));
    expect(meter.levelDbfs).toBe(-Infinity);
  }
});
