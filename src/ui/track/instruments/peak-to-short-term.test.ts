import type { LiveReadings } from '../../../engine/live/protocol';
import { peakToShortTerm } from './peak-to-short-term';

/** Readings of 3 s in which only the first has a high peak. */
function readings(count: number, shortTermLufs: number): LiveReadings[] {
  return Array.from({ length: count }, (_, i) => ({
    instruments: [{ shortTermLufs, truePeaksDbtp: [i === 0 ? -2 : -9, -8] }],
  })) as unknown as LiveReadings[];
}

test('PSR is the highest true peak of the last 3 s less the short-term loudness', () => {
  expect(peakToShortTerm(readings(90, -14), 0)).toBeCloseTo(12, 9);
  // A reading later the high peak is longer ago than 3 s.
  expect(peakToShortTerm(readings(91, -14), 0)).toBeCloseTo(6, 9);
});

test('there is no PSR of silence, of a place that is not measured, or before 3 s were heard', () => {
  expect(peakToShortTerm(readings(90, -Infinity), 0)).toBeNull();
  expect(peakToShortTerm(readings(90, -14), 1)).toBeNull();
  expect(peakToShortTerm(readings(89, -14), 0)).toBeNull();
});
