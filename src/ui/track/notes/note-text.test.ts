import type { Note } from '../../../contracts/note';
import type { MixSummary } from '../../../contracts/release';
import { notesAsText, noteTime, trailSeconds } from './note-text';

const note = (startSeconds: number, endSeconds: number | null, text: string): Note => ({
  ...{ id: text, kind: 'wish', createdAt: '2026-01-01T00:00:00Z' },
  ...{ startSeconds, endSeconds, text },
});

test('a note has its time, a passage both of its ends', () => {
  expect(noteTime(note(43.21, null, 'x'))).toBe('0:43.2');
  expect(noteTime(note(63, 71.5, 'x'))).toBe('1:03.0–1:11.5');
});

test('notes are copied one a line, under the title', () => {
  const notes = [note(3, null, 'voice too sharp'), { ...note(60, 61, 'click'), kind: 'fault' as const }];
  expect(notesAsText('Slow Orbits: Undertow, mix 2', notes)).toBe(
    'Slow Orbits: Undertow, mix 2\n0:03.0  wish: voice too sharp\n1:00.0–1:01.0  fault: click',
  );
});

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
