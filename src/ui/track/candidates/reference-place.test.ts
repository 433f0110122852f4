import type { ReferenceReport } from '../../../contracts/reference';
import { referencePlace, type ComparedTrack } from './reference-place';

const REPORT = { frames: 480_000, sampleRate: 48_000, loudest: { start: 96_000, end: 144_000 } } as ReferenceReport;
const TRACK: ComparedTrack = {
  frames: 882_000,
  sampleRate: 44_100,
  here: 441_000,
  loudest: { start: 400_000, end: 500_000 },
};
const at = (
  place: 'same' | 'share' | 'loudest',
  loop: { startSeconds: number; endSeconds: number } | null = null,
  track = TRACK,
) => referencePlace({ kind: 'reference', referenceId: 'r', place, loop }, REPORT, track);

test('a reference stands at the same time, at the same share, or with both loudest passages together', () => {
  expect(at('same')).toEqual({ offset: 0, loop: null });
  // Half of our 20 s is half of its 10 s.
  expect(at('share')).toEqual({ offset: 220_500 - 441_000, loop: null });
  // Its loudest passage starts after 2 s, at our rate.
  expect(at('loudest')).toEqual({ offset: 88_200 - 400_000, loop: null });
});

test('it loops a passage of its own, no longer than it is; where our loudest passage is not known it stays at the same time', () => {
  expect(at('loudest', { startSeconds: 2, endSeconds: 3 }).loop).toEqual({ start: 88_200, end: 132_300 });
  expect(at('same', { startSeconds: 9, endSeconds: 30 }).loop).toEqual({ start: 396_900, end: 441_000 });
  expect(at('same', { startSeconds: 30, endSeconds: 40 }).loop).toBeNull();
  expect(at('loudest', null, { ...TRACK, loudest: null })).toEqual({ offset: 0, loop: null });
});
