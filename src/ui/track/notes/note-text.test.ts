import type { Note } from '../../../contracts/note';
import { notesAsText, noteTime } from './note-text';

const note = (startSeconds: number, endSeconds: number | null, text: string): Note => ({
  ...{ id: text, kind: 'wish', createdAt: '2026-01-01T00:00:00Z', author: null },
  ...{ startSeconds, endSeconds, text },
});

test('a note has its time, a passage both of its ends', () => {
  expect(noteTime(note(43.21, null, 'x'))).toBe('0:43.2');
  expect(noteTime(note(63, 71.5, 'x'))).toBe('1:03.0–1:11.5');
});

test('notes are copied one a line, under the title', () => {
  const notes = [
    note(3, null, 'voice too sharp'),
    { ...note(60, 61, 'click'), kind: 'fault' as const, author: 'Dana' },
  ];
  expect(notesAsText('Slow Orbits: Undertow, mix 2', notes)).toBe(
    'Slow Orbits: Undertow, mix 2\n0:03.0  wish: voice too sharp\n1:00.0–1:01.0  fault (Dana): click',
  );
});
