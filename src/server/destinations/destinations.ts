import type { Knex } from 'knex';
import { type Destination, destinationSchema, STARTING_DESTINATIONS } from '../../core/deliver/destination';
import { notFound } from '../problem';

interface DestinationRow {
  id: string;
  settings: unknown;
}

/** Gives a new release the destinations, named, that it starts with. */
export async function addStartingDestinations(db: Knex, releaseId: string, names: readonly string[]): Promise<void> {
  const row = (settings: Destination, position: number) => ({
    release_id: releaseId,
    position,
    settings: JSON.stringify(settings),
  });
  await db('destinations').insert(STARTING_DESTINATIONS.filter(({ name }) => names.includes(name)).map(row));
}

/** The destinations of a release in order; whose the release is was asked before. */
export async function listDestinations(db: Knex, releaseId: string): Promise<{ id: string; settings: Destination }[]> {
  const rows = await db('destinations')
    .where({ release_id: releaseId })
    .orderBy('position')
    .select<DestinationRow[]>('id', 'settings');
  return rows.map(({ id, settings }) => ({ id, settings: destinationSchema.parse(settings) }));
}

/** One destination of a release; whose the release is was asked before. Throws a 404 when it is not there. */
export async function requireDestination(db: Knex, releaseId: string, id: string): Promise<Destination> {
  const row = await db('destinations')
    .where({ id, release_id: releaseId })
    .first<Pick<DestinationRow, 'settings'> | undefined>('settings');
  if (!row) throw notFound('destination');
  return destinationSchema.parse(row.settings);
}
