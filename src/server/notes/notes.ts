import type { Knex } from 'knex';
import { type ChangeNote, MOST_NOTES, type NewNote, type Note } from '../../contracts/note';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';

interface NoteRow {
  id: string;
  kind: Note['kind'];
  start_seconds: number;
  end_seconds: number | null;
  text: string;
  author: string | null;
  created_at: Date;
}

const COLUMNS = ['id', 'kind', 'start_seconds', 'end_seconds', 'text', 'author', 'created_at'] as const;

function noteOf({ start_seconds, end_seconds, created_at, ...note }: NoteRow): Note {
  return { ...note, startSeconds: start_seconds, endSeconds: end_seconds, createdAt: created_at.toISOString() };
}

/** The notes on a track whose owner was checked, in the order of the track. */
export async function notesOf(db: Knex, trackId: string): Promise<Note[]> {
  const rows = await db('notes')
    .where({ track_id: trackId, removed_at: null })
    .orderBy(['start_seconds', 'created_at'])
    .select<NoteRow[]>(...COLUMNS);
  return rows.map(noteOf);
}

/** Writes a note on a track. Throws a Problem (422) when it has as many as it can. */
export async function addNote(db: Knex, accountId: string, trackId: string, note: NewNote): Promise<Note> {
  return db.transaction(async (trx) => {
    await requireOwn(trx, 'tracks', accountId, trackId, ['id'], { lock: true });
    const [{ count }] = await trx('notes')
      .where({ track_id: trackId, removed_at: null })
      .count<{ count: string }[]>('id');
    if (Number(count) >= MOST_NOTES)
      throw new Problem(422, `A track has at most ${MOST_NOTES} notes. Delete those that are done.`);
    const { kind, startSeconds, endSeconds, text } = note;
    const [row] = await trx('notes')
      .insert({ track_id: trackId, kind, start_seconds: startSeconds, end_seconds: endSeconds, text })
      .returning<NoteRow[]>([...COLUMNS]);
    return noteOf(row);
  });
}

/** Changes a note. */
export async function changeNote(db: Knex, accountId: string, noteId: string, change: ChangeNote): Promise<void> {
  const { kind, text, startSeconds, endSeconds, restored } = change;
  await db.transaction(async (trx) => {
    const reach = restored ? 'removedToo' : 'present';
    await requireOwn(trx, 'notes', accountId, noteId, ['id'], { lock: true, reach });
    const values = {
      ...(restored && { removed_at: null }),
      ...(kind !== undefined && { kind }),
      ...(text !== undefined && { text }),
      ...(startSeconds !== undefined && { start_seconds: startSeconds, end_seconds: endSeconds }),
    };
    if (Object.keys(values).length > 0) await trx('notes').where({ id: noteId }).update(values);
  });
}

/** Deletes a note; it can be restored for a while. */
export async function removeNote(db: Knex, accountId: string, noteId: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'notes', accountId, noteId, ['id'], { lock: true });
    await trx('notes').where({ id: noteId }).update({ removed_at: trx.fn.now() });
  });
}
