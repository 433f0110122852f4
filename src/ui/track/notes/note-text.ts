import type { Note, NoteKind } from '../../../contracts/note';
import type { MixSummary } from '../../../contracts/release';
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
  const lines = notes.map((note) => `${noteTime(note)}  ${NOTE_TITLES[note.kind].toLowerCase()}: ${note.text}`);
  return [title, ...lines].join('\n');
}

/**
 * Seconds by which a mix trails the track's own time, in which notes are kept. A newer mix is moved under the older one when
 * it arrives; only where that would cut off sound does it keep its own time.
 */
export function trailSeconds(mix: MixSummary | null, mixes: readonly MixSummary[]): number {
  if (!mix?.linedUp) return 0;
  const { toMix, outcome, offsetMs } = mix.linedUp;
  const older = mixes.find(({ number }) => number === toMix && number < mix.number) ?? null;
  return trailSeconds(older, mixes) + (outcome === 'soundBefore' ? offsetMs / 1000 : 0);
}
