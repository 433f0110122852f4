import type { LiveReadings } from '../../../engine/live/protocol';

/** Readings in the 3 s of short-term loudness, at 30 a second. */
const WINDOW = 90;

/**
 * Highest true peak of the last 3 s less the short-term loudness, in LU (PSR), at a place of the instruments; null while
 * there is silence, or while less than that was heard.
 */
export function peakToShortTerm(history: readonly LiveReadings[], place: number): number | null {
  const readings = history.slice(-WINDOW).flatMap(({ instruments }) => instruments.at(place) ?? []);
  const last = readings.at(-1);
  if (!last || readings.length < WINDOW) return null;
  const peak = Math.max(...readings.flatMap(({ truePeaksDbtp }) => [...truePeaksDbtp]));
  const ratio = peak - last.shortTermLufs;
  return Number.isFinite(ratio) ? ratio : null;
}
