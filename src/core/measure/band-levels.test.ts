import { sine } from '../../../tests/support/signals';
import { Kernels } from '../kernels/host';
import { BandLevelMeter, LOWEST_DB } from './band-levels';

const RATE = 48000;

test('a tone is at its level in its own band, and far lower in the others', () => {
  const kernels = new Kernels();
  const meter = new BandLevelMeter(kernels, RATE, { frequenciesHz: [120, 2000], phase: 'minimum' });
  const [left, right] = [kernels.allocate(1024 * 8), kernels.allocate(1024 * 8)];
  const tone = sine(500, -20, 1.024, RATE);
  for (let at = 0; at + 1024 <= tone.length; at += 1024) {
    // The tone begins at once, which every band hears: that is forgotten.
    if (at === 8 * 1024) meter.take();
    kernels.f64.set(tone.subarray(at, at + 1024), left >> 3);
    meter.add(left, right, 1024);
  }
  const [low, middle, high] = meter.take();
  expect(middle).toBeCloseTo(-20, 0);
  expect(low).toBeLessThan(-35);
  expect(high).toBeLessThan(-35);
  expect(meter.take()).toEqual([-Infinity, -Infinity, -Infinity]);
  const shares = meter.result();
  expect(shares[1][-20 - LOWEST_DB]).toBeGreaterThan(0.9);
  for (const band of shares) expect(band.reduce((sum, share) => sum + share, 0)).toBeLessThanOrEqual(1.000001);
});
