import type { Knex } from 'knex';
import { notFound } from './problem';

/**
 * Everything that belongs to an account, and the column that leads there: of the account itself, a release or a track.
 */
const OWNED = {
  releases: { name: 'release', through: 'account' },
  impulse_responses: { name: 'impulse response', through: 'account' },
  reference_tracks: { name: 'reference', through: 'account' },
  shelf_destinations: { name: 'destination', through: 'account' },
  house_lanes: { name: 'house lane', through: 'account' },
  listening_links: { name: 'listening link', through: 'release' },
  listening_files: { name: 'stream', through: 'release' },
  proposals: { name: 'proposal', through: 'track' },
  approvals: { name: 'approval', through: 'track' },
  preference_tests: { name: 'blind test', through: 'track' },
  images: { name: 'image', through: 'release' },
  tracks: { name: 'track', through: 'release' },
  destinations: { name: 'destination', through: 'release' },
  mixes: { name: 'mix', through: 'track' },
  versions: { name: 'version', through: 'track' },
  deliveries: { name: 'delivery', through: 'track' },
  notes: { name: 'note', through: 'track' },
  encode_checks: { name: 'encode', through: 'track' },
  blind_tests: { name: 'blind test', through: 'track' },
  blind_test_sounds: { name: 'sound', through: 'track' },
} as const;
export type OwnedTable = keyof typeof OWNED;

/** Tables whose rows are kept for a while after they were deleted. */
const REMOVABLE_TABLES: readonly OwnedTable[] = [
  ...(['releases', 'tracks', 'mixes', 'versions', 'reference_tracks', 'shelf_destinations', 'notes'] as const),
  'listening_links',
];

/**
 * Which rows count: those that are there, those besides that were deleted themselves from something that is there, or all.
 */
export type Reach = 'present' | 'removedToo' | 'all';

/** Rows of a table, as `x`, that belong to an account. The only place that decides ownership. */
export function ownedBy(db: Knex, table: OwnedTable, accountId: string, reach: Reach = 'present'): Knex.QueryBuilder {
  const query = db(`${table} as x`);
  const { through } = OWNED[table];
  if (reach === 'present' && REMOVABLE_TABLES.includes(table)) void query.whereNull('x.removed_at');
  if (through === 'account') return query.where('x.account_id', accountId);
  if (through === 'track') {
    void query.join('tracks as owner_track', 'owner_track.id', 'x.track_id');
    if (reach !== 'all') void query.whereNull('owner_track.removed_at');
  }
  if (reach !== 'all') void query.whereNull('owner_release.removed_at');
  return query
    .join(
      'releases as owner_release',
      'owner_release.id',
      through === 'track' ? 'owner_track.release_id' : 'x.release_id',
    )
    .where('owner_release.account_id', accountId);
}

/**
 * One row of an account by its identifier, with the columns named. With `lock`, within a transaction, nothing else
 * changes it meanwhile. Throws a Problem (404) when there is none, or it belongs to another account.
 */
export async function requireOwn<Row extends object>(
  db: Knex,
  table: OwnedTable,
  accountId: string,
  id: string,
  columns: readonly (keyof Row & string)[],
  { lock = false, reach }: { lock?: boolean; reach?: Reach } = {},
): Promise<Row> {
  const query = ownedBy(db, table, accountId, reach).where('x.id', id);
  if (lock) void query.forUpdate('x');
  const row = await query.first<Row | undefined>(columns.map((column) => `x.${column}`));
  if (!row) throw notFound(OWNED[table].name);
  return row;
}
