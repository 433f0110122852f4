import type { MixSummary } from './release';
import { trailSeconds } from './track-time';

/** A mix that lined up with another one so. */
const mix = (number: number, toMix: number | null, outcome: string, offsetMs = 0) =>
  ({ number, linedUp: toMix === null ? null : { toMix, outcome, offsetMs } }) as unknown as MixSummary;

test('a mix that was moved under the older one has the time of the notes; one that could not be trails by its offset', () => {
  const first = mix(1, null, 'found');
  const found = mix(2, 1, 'found', 37);
  const beside = mix(3, 2, 'soundBefore', 500);
  const later = mix(4, 3, 'soundBefore', 250);
  const mixes = [later, beside, found, first];
  expect([first, found, beside, later, mix(5, 1, 'different')].map((each) => trailSeconds(each, mixes))).toEqual([
    0, 0, 0.5, 0.75, 0,
  ]);
  expect(trailSeconds(null, mixes)).toBe(0);
});
