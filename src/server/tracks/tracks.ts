import path from 'node:path';
import type { Knex } from 'knex';
import type { ChangeTrack } from '../../contracts/release';
import { EMPTY_LANE } from '../../core/lane/schema';
import type { SentFile } from '../http/upload';
import { insertMix, receive } from '../mixes/mixes';
import { copyTitle, writeOrder } from '../order';
import { requireOwn } from '../ownership';
import { notFound, Problem } from '../problem';

const MAX_TRACKS = 200;
const MAX_TITLE = 120;

/** A readable title from a file's name. */
function titleFrom(fileName: string): string {
  const base = path.basename(fileName, path.extname(fileName)).replace(/_+/g, ' ').trim();
  return base.slice(0, MAX_TITLE) || 'Untitled';
}

/** Takes an uploaded mix as a new track of a release. Throws a Problem when it cannot be one. */
export async function receiveTrack(
  db: Knex,
  accountId: string,
  releaseId: string,
  sent: SentFile,
): Promise<{ trackId: string; mixId: string }> {
  await requireOwn(db, 'releases', accountId, releaseId, ['id']);
  return receive(db, accountId, sent, async (trx, mix) => {
    // The release's row serializes uploads that arrive together, so that each gets a place of its own.
    await trx('releases').where({ id: releaseId }).forUpdate().first('id');
    const [{ count }] = await trx('tracks')
      .where({ release_id: releaseId, removed_at: null })
      .count<{ count: string }[]>('id');
    if (Number(count) >= MAX_TRACKS)
      throw new Problem(422, `A release has at most ${MAX_TRACKS} tracks. Start another release.`);
    const position = (await lastPosition(trx, releaseId)) + 1;
    const [track] = await trx('tracks')
      .insert({ release_id: releaseId, position, title: sent.title ?? titleFrom(sent.fileName) })
      .returning<{ id: string }[]>('id');
    const [version] = await trx('versions')
      .insert({ track_id: track.id, name: 'First version', position: 1 })
      .returning<{ id: string }[]>('id');
    await trx('edits').insert({
      version_id: version.id,
      sequence: 0,
      label: 'Start',
      lane: JSON.stringify(EMPTY_LANE),
    });
    return { trackId: track.id, mixId: await insertMix(trx, track.id, 1, mix) };
  });
}

async function lastPosition(trx: Knex, releaseId: string): Promise<number> {
  const [{ max }] = await trx('tracks')
    .where({ release_id: releaseId, removed_at: null })
    .max<{ max: number | null }[]>('position');
  return max ?? 0;
}

/** Throws a Problem (409) when another track of the release has this ISRC: each recording has its own. */
async function requireFreeIsrc(trx: Knex, id: string, isrc: string): Promise<void> {
  const other = await trx('tracks as t')
    .join('tracks as own', 'own.release_id', 't.release_id')
    .where({ 'own.id': id, 't.isrc': isrc, 't.removed_at': null })
    .whereNot('t.id', id)
    .first<{ title: string } | undefined>('t.title');
  if (other)
    throw new Problem(409, `“${other.title}” of this release has this ISRC already. Each recording has its own.`);
}

/** Changes what a track is called and carries. */
export async function changeTrack(
  db: Knex,
  accountId: string,
  id: string,
  { joint, chosenVersionId, ...particulars }: ChangeTrack,
): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'tracks', accountId, id, ['id'], { lock: true });
    if (typeof chosenVersionId === 'string') {
      const own = await trx('versions')
        .where({ id: chosenVersionId, track_id: id, removed_at: null })
        .first<{ id: string } | undefined>('id');
      if (!own) throw notFound('version');
    }
    if (particulars.isrc) await requireFreeIsrc(trx, id, particulars.isrc);
    const changes = {
      ...particulars,
      ...(joint && { joint: JSON.stringify(joint) }),
      ...(chosenVersionId !== undefined && { chosen_version: chosenVersionId }),
    };
    if (Object.keys(changes).length > 0) await trx('tracks').where({ id }).update(changes);
  });
}

/** Puts the tracks of a release in another order. Throws a Problem (409) when the list is not of its tracks. */
export async function orderTracks(db: Knex, accountId: string, releaseId: string, ids: string[]): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
    await writeOrder(trx, 'tracks', { release_id: releaseId }, ids);
  });
}

/**
 * Removes a track; it can be restored. One whose mix never was ready is dropped at once, and its analysis stops. The
 * tracks after it move up.
 */
export async function removeTrack(db: Knex, accountId: string, trackId: string): Promise<void> {
  await db.transaction(async (trx) => {
    const row = await requireOwn<{ release_id: string; position: number }>(
      ...([trx, 'tracks', accountId, trackId, ['release_id', 'position'], { lock: true }] as const),
    );
    const ready = await trx('mixes')
      .where({ track_id: trackId, status: 'ready' })
      .first<{ id: string } | undefined>('id');
    if (ready) await trx('tracks').where({ id: trackId }).update({ removed_at: trx.fn.now() });
    else await trx('tracks').where({ id: trackId }).delete();
    await trx('tracks')
      .where({ release_id: row.release_id, removed_at: null })
      .andWhere('position', '>', row.position)
      .decrement('position', 1);
  });
}

const MIX_COLUMNS = [
  ...['number', 'file_name', 'status', 'progress', 'source', 'original_hash', 'working_hash', 'working_format'],
  ...['sample_rate', 'frames', 'findings', 'lined_up'],
];
const TRACK_COLUMNS = ['title', 'artist', 'isrc', 'composer', 'copyright', 'notes', 'joint'];

/** Copies a track into a release with its mixes that are ready, and its versions as they stand now. */
export async function copyTrackInto(
  trx: Knex,
  trackId: string,
  releaseId: string,
  { title, position }: { title?: string; position: number },
): Promise<string> {
  const [source] = await trx('tracks')
    .where({ id: trackId })
    .select<Record<string, string | null>[]>([...TRACK_COLUMNS, 'mix_id', 'chosen_version']);
  const { mix_id: chosen, chosen_version: chosenVersion, joint, ...particulars } = source;
  // An ISRC belongs to one recording.
  const own = title === undefined ? {} : { title, isrc: '' };
  const [{ id }] = await trx('tracks')
    .insert({ ...particulars, ...own, joint: joint && JSON.stringify(joint), release_id: releaseId, position })
    .returning<{ id: string }[]>('id');
  const list = MIX_COLUMNS.join(', ');
  await trx.raw(
    `insert into mixes (track_id, ${list}) select ?::uuid, ${list} from mixes
       where track_id = ? and status = 'ready' and removed_at is null`,
    [id, trackId],
  );
  if (chosen !== null)
    await trx('tracks')
      .where({ id })
      .update({
        mix_id: trx('mixes')
          .where({ track_id: id, number: trx('mixes').where({ id: chosen }).select('number') })
          .select('id'),
      });
  const versions = await trx('versions as v')
    .join('edits as e', (join) => join.on('e.version_id', 'v.id').andOn('e.sequence', 'v.current'))
    .where({ 'v.track_id': trackId, 'v.removed_at': null })
    .select<{ id: string; name: string; position: number; pins: unknown; lane: unknown }[]>(
      ...['v.id', 'v.name', 'v.position', 'v.pins', 'e.lane'],
    );
  for (const { id: original, name, position: place, pins, lane } of versions) {
    const [version] = await trx('versions')
      .insert({ track_id: id, name, position: place, pins: JSON.stringify(pins) })
      .returning<{ id: string }[]>('id');
    await trx('edits').insert({ version_id: version.id, sequence: 0, label: 'Start', lane: JSON.stringify(lane) });
    if (original === chosenVersion) await trx('tracks').where({ id }).update({ chosen_version: version.id });
  }
  return id;
}

/** Copies a track right after itself. Throws a Problem (422) when the release is full. */
export async function copyTrack(db: Knex, accountId: string, trackId: string): Promise<{ id: string }> {
  return db.transaction(async (trx) => {
    const columns = ['title', 'position', 'release_id'] as const;
    const row = await requireOwn<{ title: string; position: number; release_id: string }>(
      ...([trx, 'tracks', accountId, trackId, columns] as const),
    );
    await trx('releases').where({ id: row.release_id }).forUpdate().first('id');
    if ((await lastPosition(trx, row.release_id)) >= MAX_TRACKS)
      throw new Problem(422, `A release has at most ${MAX_TRACKS} tracks. Start another release.`);
    await trx('tracks')
      .where({ release_id: row.release_id, removed_at: null })
      .andWhere('position', '>', row.position)
      .increment('position', 1);
    const title = copyTitle(row.title);
    return { id: await copyTrackInto(trx, trackId, row.release_id, { title, position: row.position + 1 }) };
  });
}

/**
 * Moves a track to the end of another release, with its mixes, versions, deliveries and notes. What was set for the
 * destinations of the old one stays behind. Throws a Problem: 404 for another's, 409 where it is already, 422 when the release is
 * full.
 */
export async function moveTrack(db: Knex, accountId: string, trackId: string, releaseId: string): Promise<void> {
  await db.transaction(async (trx) => {
    const row = await requireOwn<{ release_id: string; position: number }>(
      ...([trx, 'tracks', accountId, trackId, ['release_id', 'position'], { lock: true }] as const),
    );
    await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
    if (row.release_id === releaseId) throw new Problem(409, 'The track is in that release already.');
    const last = await lastPosition(trx, releaseId);
    if (last >= MAX_TRACKS)
      throw new Problem(422, `A release has at most ${MAX_TRACKS} tracks. Choose another release.`);
    await trx('adjustments')
      .whereIn('version_id', trx('versions').where({ track_id: trackId }).select('id'))
      .delete();
    await trx('tracks')
      .where({ id: trackId })
      .update({ release_id: releaseId, position: last + 1 });
    await trx('tracks')
      .where({ release_id: row.release_id, removed_at: null })
      .andWhere('position', '>', row.position)
      .decrement('position', 1);
  });
}
