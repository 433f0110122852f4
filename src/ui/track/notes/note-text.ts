import type { Note, NoteKind } from '../../../contracts/note';
import { clock } from '../../kit/format';

/** What the kinds of notes are called. */
export const NOTE_TITLES: Record<NoteKind, string> = {
  fault: 'Fault',
  wish: 'Wish',
  question: 'Question',
  done: 'Done',
  loop: 'Loop',
};

/** "0:43.2", or "0:43.2–0:51.0" for a passage. */
export function noteTime({ startSeconds, endSeconds }: Pick<Note, 'startSeconds' | 'endSeconds'>): string {
  return endSeconds === null ? clock(startSeconds, 1) : `${clock(startSeconds, 1)}–${clock(endSeconds, 1)}`;
}

/** Notes as text to send to someone: one a line, with the time and the kind. */
export function notesAsText(title: string, notes: readonly Note[]): string {
  const lines = notes.map(
    (note) =>
      `${noteTime(note)}  ${NOTE_TITLES[note.kind].toLowerCase()}${note.author ? ` (${note.author})` : ''}: ${note.text}`,
  );
  return [title, ...lines].join('\n');
}
