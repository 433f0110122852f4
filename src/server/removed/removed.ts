import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { Removable } from '../../contracts/release';
import { isTaken } from '../failures';
import { ownedBy, requireOwn } from '../ownership';
import { Problem } from '../problem';

/** How long what was deleted can be restored. */
const KEPT_DAYS = 30;
const LISTED = 200;

const TABLES = {
  release: 'releases',
  track: 'tracks',
  mix: 'mixes',
  version: 'versions',
  reference: 'reference_tracks',
  destination: 'shelf_destinations',
  link: 'listening_links',
} as const;

interface RemovedRow {
  kind: Removable['kind'];
  id: string;
  title: string;
  of: string;
  removedAt: Date;
}

/** What an account deleted and can restore, the latest first; what went with something larger is not listed. */
export async function listRemoved(
  db: Knex,
  accountId: string,
): Promise<(Omit<RemovedRow, 'removedAt'> & { removedAt: string })[]> {
  const titles = {
    release: ['x.title', db.raw(`'' as "of"`)],
    track: ['x.title', 'owner_release.title as of'],
    mix: [db.raw(`'Mix ' || x.number || ', ' || x.file_name as title`), 'owner_track.title as of'],
    version: ['x.name as title', 'owner_track.title as of'],
    reference: ['x.title', db.raw(`'' as "of"`)],
    destination: ['x.name as title', db.raw(`'' as "of"`)],
    link: ['x.recipient as title', 'owner_release.title as of'],
  } as const;
  const found: RemovedRow[] = [];
  for (const kind of Object.keys(TABLES) as Removable['kind'][]) {
    const rows = await ownedBy(db, TABLES[kind], accountId, 'removedToo')
      .whereNotNull('x.removed_at')
      .orderBy('x.removed_at', 'desc')
      .limit(LISTED)
      .select<Omit<RemovedRow, 'kind'>[]>('x.id', 'x.removed_at as removedAt', ...titles[kind]);
    found.push(...rows.map((row) => ({ kind, ...row })));
  }
  return found
    .sort((a, b) => b.removedAt.getTime() - a.removedAt.getTime())
    .slice(0, LISTED)
    .map((row) => ({ ...row, removedAt: row.removedAt.toISOString() }));
}

/** Brings back what was deleted; a track gets its place again, and those after it move down. */
export async function restore(db: Knex, accountId: string, { kind, id }: Removable): Promise<void> {
  await db
    .transaction(async (trx) => {
      const table = TABLES[kind];
      const row = await requireOwn<{ removed_at: Date | null }>(trx, table, accountId, id, ['removed_at'], {
        lock: true,
        reach: 'removedToo',
      });
      if (row.removed_at === null) throw new Problem(409, `This ${kind} is not deleted; there is nothing to restore.`);
      if (kind === 'track') await makeRoomFor(trx, id);
      await trx(table).where({ id }).update({ removed_at: null });
    })
    .catch((error: unknown) => {
      if (isTaken(error)) throw new Problem(409, `There is another ${kind} of that name now. Rename that one first.`);
      throw error;
    });
}

async function makeRoomFor(trx: Knex, trackId: string): Promise<void> {
  const track = await trx('tracks')
    .where({ id: trackId })
    .first<{ release_id: string; position: number }>('release_id', 'position');
  await trx('releases').where({ id: track.release_id }).forUpdate().first('id');
  const present = trx('tracks').where({ release_id: track.release_id, removed_at: null });
  const [{ count }] = await present.clone().count<{ count: string }[]>('id');
  const position = Math.min(track.position, Number(count) + 1);
  await present.clone().andWhere('position', '>=', position).increment('position', 1);
  await trx('tracks').where({ id: trackId }).update({ position });
}

/** Removes for good what was deleted long enough ago; the store's sweep then removes its files. */
export async function purgeRemoved(db: Knex, logger: Logger): Promise<void> {
  const old = `removed_at < now() - interval '${KEPT_DAYS} days'`;
  await db.transaction(async (trx) => {
    const tracks = trx('tracks')
      .whereRaw(old)
      .orWhereIn('release_id', trx('releases').whereRaw(old).select('id'))
      .select('id');
    await trx('deliveries').whereIn('track_id', tracks).delete();
    for (const table of [
      'releases',
      'tracks',
      'versions',
      'reference_tracks',
      'shelf_destinations',
      'notes',
      'listening_links',
    ] as const) {
      const rows = await trx(table).whereRaw(old).delete();
      if (rows > 0) logger.warn({ table, rows }, 'removed for good what was deleted long ago');
    }
    // A mix that was delivered stays as long as its deliveries.
    await trx('mixes').whereRaw(old).whereNotIn('id', trx('deliveries').select('mix_id')).delete();
  });
}
