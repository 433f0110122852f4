import { isDeepStrictEqual } from 'node:util';
import type { Knex } from 'knex';
import type { ReleaseDestination } from '../../contracts/destination';
import { type Destination, destinationSchema } from '../../core/deliver/destination';
import { isTaken } from '../failures';
import { requireOwn } from '../ownership';
import { notFound, Problem } from '../problem';
import { listShelf, requireOnShelf } from './shelf';

/** Destinations of a release. */
const MOST_OF_A_RELEASE = 30;

interface DestinationRow {
  id: string;
  settings: unknown;
  shelfId: string | null;
}

const rowOf = (releaseId: string, position: number, shelfId: string | null, settings: Destination) => ({
  ...{ release_id: releaseId, position, shelf_id: shelfId },
  ...{ name: settings.name, settings: JSON.stringify(settings) },
});

/** Gives a new release what the shelf of its account says that it starts with. */
export async function addStartingDestinations(db: Knex, accountId: string, releaseId: string): Promise<void> {
  const starting = (await listShelf(db, accountId)).filter(({ starts }) => starts);
  if (starting.length === 0) return;
  await db('destinations').insert(starting.map(({ id, settings }, i) => rowOf(releaseId, i, id, settings)));
}

/** The destinations of a release in order; whose the release is was asked before. */
export async function listDestinations(db: Knex, releaseId: string): Promise<ReleaseDestination[]> {
  const rows = await db('destinations as d')
    .leftJoin('shelf_destinations as s', (join) => join.on('s.id', 'd.shelf_id').andOnNull('s.removed_at'))
    .where('d.release_id', releaseId)
    .orderBy('d.position')
    .select<(Omit<DestinationRow, 'shelfId'> & { shelf: unknown })[]>('d.id', 'd.settings', 's.settings as shelf');
  return rows.map(({ id, settings: given, shelf }) => {
    const settings = destinationSchema.parse(given);
    const current = shelf === null ? null : destinationSchema.parse(shelf);
    return { id, settings, newer: current === null || isDeepStrictEqual(current, settings) ? null : current };
  });
}

/** One destination of a release; whose the release is was asked before. Throws a 404 when it is not there. */
export async function requireDestination(db: Knex, releaseId: string, id: string): Promise<Destination> {
  const row = await db('destinations')
    .where({ id, release_id: releaseId })
    .first<Pick<DestinationRow, 'settings'> | undefined>('settings');
  if (!row) throw notFound('destination');
  return destinationSchema.parse(row.settings);
}

async function named<Result>(write: () => Promise<Result>): Promise<Result> {
  return write().catch((error: unknown) => {
    throw isTaken(error) ? new Problem(409, 'This release already has a destination of that name.') : error;
  });
}

/**
 * Gives a release a destination of the shelf, with the values that it has there now. Throws a Problem: 404 for another's,
 * 409 when the release has one of that name, 422 when it has too many.
 */
export async function takeDestination(
  db: Knex,
  accountId: string,
  releaseId: string,
  shelfId: string,
): Promise<{ id: string }> {
  return named(() =>
    db.transaction(async (trx) => {
      await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
      const { settings } = await requireOnShelf(trx, accountId, shelfId);
      const [{ count, last }] = await trx('destinations')
        .where({ release_id: releaseId })
        .select<{ count: string; last: number | null }[]>(trx.raw('count(*), max(position) as last'));
      if (Number(count) >= MOST_OF_A_RELEASE)
        throw new Problem(422, `A release has at most ${MOST_OF_A_RELEASE} destinations. Take one away first.`);
      const [row] = await trx('destinations')
        .insert(rowOf(releaseId, (last ?? -1) + 1, shelfId, settings))
        .returning<{ id: string }[]>('id');
      return row;
    }),
  );
}

/** Gives a destination of a release the values that the shelf has now. Throws a Problem (404) when the shelf has none. */
export async function renewDestination(db: Knex, accountId: string, releaseId: string, id: string): Promise<void> {
  await named(() =>
    db.transaction(async (trx) => {
      await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
      const row = await trx('destinations')
        .where({ id, release_id: releaseId })
        .first<{ shelf_id: string | null } | undefined>('shelf_id');
      if (!row?.shelf_id) throw notFound('destination');
      const { settings } = await requireOnShelf(trx, accountId, row.shelf_id);
      await trx('destinations')
        .where({ id })
        .update({ name: settings.name, settings: JSON.stringify(settings) });
    }),
  );
}

/** Takes a destination away from a release; what was delivered for it stays. */
export async function dropDestination(db: Knex, accountId: string, releaseId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
    const dropped = await trx('destinations').where({ id, release_id: releaseId }).delete();
    if (dropped === 0) throw notFound('destination');
  });
}
