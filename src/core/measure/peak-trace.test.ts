import { noise } from '../../../tests/support/signals';
import { PeakTrace } from './peak-trace';

const FRAMES = 1000;
const [left, right] = [noise(FRAMES, 0.5, 1), noise(FRAMES, 0.7, 2)];

test.each([0, 1, 63, 64, 130])(
  '%d frames late, each value is the highest sample of its own stretch of the track',
  (late) => {
    const trace = new PeakTrace(64, late, FRAMES);
    const delayed = (x: Float64Array) => Float64Array.from({ length: FRAMES + 192 }, (_, i) => x[i - late] ?? 0.9);
    const [l, r] = [delayed(left), delayed(right)];
    for (let at = 0; at < l.length; at += 128) trace.add(l.subarray(at, at + 128), r.subarray(at, at + 128));
    expect(trace.values).toHaveLength(Math.ceil(FRAMES / 64));
    trace.values.forEach((value, i) => {
      const own = (x: Float64Array) => [...x.subarray(i * 64, (i + 1) * 64)].map(Math.abs);
      expect(value).toBeCloseTo(Math.max(...own(left), ...own(right)), 6);
    });
  },
);
