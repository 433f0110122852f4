import { createStore } from 'zustand/vanilla';
import { sentenceOf } from '../../../core/sentence-of';
import { type ChangeNote, type NewNote, type Note, noteSchema } from '../../../contracts/note';
import { api, send } from '../../api';
import { offerUndo } from '../../kit/undo-store';

export interface NotesState {
  /** In the order of the track. */
  notes: readonly Note[];
}

const inOrder = (notes: readonly Note[]) => [...notes].sort((a, b) => a.startSeconds - b.startSeconds);

/** The notes on the programme of a track: shown at once, and kept by the server. */
export class Notes {
  readonly store;

  /** `report` tells what went wrong. */
  constructor(
    private readonly trackId: string,
    notes: readonly Note[],
    private readonly report: (problem: string) => void,
  ) {
    this.store = createStore<NotesState>(() => ({ notes: inOrder(notes) }));
  }

  /** Writes a note; gives it, or null where that was not possible. */
  async add(note: NewNote): Promise<Note | null> {
    try {
      const added = await api(noteSchema, `/api/tracks/${this.trackId}/notes`, { method: 'POST', body: note });
      this.show([...this.notes, added]);
      return added;
    } catch (error) {
      this.report(sentenceOf(error));
      return null;
    }
  }

  change(id: string, change: ChangeNote): void {
    const before = this.notes;
    this.show(before.map((note) => (note.id === id ? { ...note, ...change } : note)));
    this.tell(before, send(`/api/notes/${id}`, { method: 'PATCH', body: change }));
  }

  /** Deletes a note, and offers to bring it back with its author and the link that it came through. */
  remove(id: string): void {
    const before = this.notes;
    const note = before.find((each) => each.id === id);
    if (!note) return;
    this.show(before.filter((each) => each.id !== id));
    const gone = send(`/api/notes/${id}`, { method: 'DELETE' });
    this.tell(before, gone);
    offerUndo('The note is deleted', () => {
      const without = this.notes;
      this.show([...without.filter((each) => each.id !== id), note]);
      const restored = gone.then(() => send(`/api/notes/${id}`, { method: 'PATCH', body: { restored: true } }));
      this.tell(without, restored);
    });
  }

  /** The next note after a time in seconds, or the last before it; undefined where there is none. */
  next(seconds: number, direction: 1 | -1): Note | undefined {
    // A jump lands a little beside the note.
    const margin = 0.05;
    return direction > 0
      ? this.notes.find(({ startSeconds }) => startSeconds > seconds + margin)
      : this.notes.findLast(({ startSeconds }) => startSeconds < seconds - margin);
  }

  private get notes(): readonly Note[] {
    return this.store.getState().notes;
  }

  private show(notes: readonly Note[]): void {
    this.store.setState({ notes: inOrder(notes) });
  }

  /** What could not be kept is taken back. */
  private tell(before: readonly Note[], sent: Promise<void>): void {
    sent.catch((error: unknown) => {
      this.show(before);
      this.report(sentenceOf(error));
    });
  }
}
