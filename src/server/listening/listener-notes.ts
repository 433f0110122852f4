import type { Knex } from 'knex';
import type { ListenerNote, NewListenerNote } from '../../contracts/listening';
import { MOST_NOTES } from '../../contracts/note';
import { Problem } from '../problem';
import type { LinkRow } from './links';
import type { Heard } from './programme';
import { heardTrack } from './visitor';

interface NoteRow {
  id: string;
  trackId: string;
  startSeconds: number;
  text: string;
  author: string;
}

/** Notes that came through a link, in the order of what is heard. */
export async function listenerNotes(db: Knex, { id }: LinkRow, tracks: Heard['tracks']): Promise<ListenerNote[]> {
  const rows = await db('notes')
    .where({ link_id: id, removed_at: null })
    .whereIn(
      'track_id',
      tracks.map(({ trackId }) => trackId),
    )
    .orderBy('start_seconds')
    .select<NoteRow[]>('id', 'track_id as trackId', 'start_seconds as startSeconds', 'text', 'author');
  return tracks.flatMap(({ trackId, firstSeconds }) =>
    rows
      .filter((row) => row.trackId === trackId)
      .map(({ startSeconds, ...note }) => ({ ...note, seconds: Math.max(0, startSeconds - firstSeconds) })),
  );
}

/** Writes a listener's note onto its track. Throws a Problem: 404 for another track, 422 when there are too many. */
export async function addListenerNote(db: Knex, link: LinkRow, note: NewListenerNote): Promise<{ id: string }> {
  const { firstSeconds, startSeconds, endSeconds } = heardTrack(link, note.trackId);
  const seconds = Math.min(note.seconds, endSeconds - startSeconds);
  return db.transaction(async (trx) => {
    const track_id = note.trackId;
    await trx('tracks').where({ id: track_id }).forUpdate().first('id');
    const [{ count }] = await trx('notes').where({ track_id, removed_at: null }).count<{ count: string }[]>('id');
    if (Number(count) >= MOST_NOTES)
      throw new Problem(
        422,
        `This track has ${MOST_NOTES} notes, the maximum. Delete one first, or tell the engineer.`,
      );
    const [row] = await trx('notes')
      .insert({
        ...{ track_id, link_id: link.id, author: note.author, kind: 'wish', text: note.text },
        start_seconds: Math.max(0, firstSeconds + seconds),
      })
      .returning<{ id: string }[]>('id');
    return row;
  });
}

/** Takes back a note that came through this link. Throws a Problem (404) for any other. */
export async function removeListenerNote(db: Knex, link: LinkRow, id: string): Promise<void> {
  const removed = await db('notes').where({ id, link_id: link.id }).delete();
  if (removed === 0) throw new Problem(404, 'This note is already gone.');
}
