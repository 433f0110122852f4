import type { Knex } from 'knex';
import { jointSchema, USUAL_JOINT } from '../../core/sequence/joint';
import { mixesOf } from '../mixes/mix-list';
import { addStartingDestinations } from '../destinations/destinations';
import { copyTitle } from '../order';
import { requireOwn } from '../ownership';
import { copyTrackInto } from '../tracks/tracks';
import {
  releaseListSchema,
  type ChangeRelease,
  type MixStatus,
  type NewRelease,
  type ReleaseDetail,
  type ReleaseList,
  type ReleaseOrder,
  type ReleasePage,
  type ReleaseSummary,
  type TrackSummary,
} from '../../contracts/release';
import { APPROVAL_COUNTS, DELIVERED, READY } from '../tracks/in-use';

/** How many mixes of a release, as `r`, have one of these statuses. */
const mixesIn = (db: Knex, name: string, statuses: MixStatus[]) =>
  db.raw(
    `(select count(*)::int from mixes m join tracks t on t.id = m.track_id where t.release_id = r.id
        and t.removed_at is null and m.removed_at is null and m.status = any(?)) as ??`,
    [statuses, name],
  );

/** Releases shown at once. */
const PAGE = 50;

/** What the list is ordered by, and which way; the identifier decides between equal ones. */
const ORDERS: Record<ReleaseOrder, { by: string; way: 'asc' | 'desc' }> = {
  newest: { by: 'r.created_at', way: 'desc' },
  oldest: { by: 'r.created_at', way: 'asc' },
  title: { by: 'lower(r.title)', way: 'asc' },
  artist: { by: 'lower(r.artist)', way: 'asc' },
};

/** A text anywhere within another; what has a meaning in patterns is taken as it is. */
const within = (text: string) => `%${text.replace(/[\\%_]/g, '\\$&')}%`;

/**
 * How far each of the releases `own` is, as common table expressions.  Counted for all of them together: looked up release
 * by release, two thousand of ten tracks take a second.
 */
const STATUSES: [name: string, query: string][] = [
  [
    'their_tracks',
    `select t.id, t.release_id, t.mix_id, t.chosen_version from tracks t join own on own.id = t.release_id
      where t.removed_at is null`,
  ],
  ['counted', 'select t.release_id, count(*) as n from their_tracks t group by t.release_id'],
  [
    'mixed',
    `select t.release_id, count(*) as n from their_tracks t where exists (select ${READY}) group by t.release_id`,
  ],
  ['delivered', `select t.release_id, count(*) as n from their_tracks t where ${DELIVERED} group by t.release_id`],
  [
    'approved',
    `select t.release_id, count(distinct t.id) as n from their_tracks t join approvals a on a.track_id = t.id
       join versions v on v.id = a.version_id where ${APPROVAL_COUNTS} group by t.release_id`,
  ],
  [
    'statuses',
    `select own.id, case
        when counted.n is null or mixed.n is distinct from counted.n then 'waiting'
        when delivered.n = counted.n then 'delivered'
        when approved.n = counted.n then 'approved'
        when exists (select from listening_links l where l.release_id = own.id and l.removed_at is null and l.revoked_at is null
          and (l.expires_at is null or l.expires_at > now())) then 'client'
        else 'working' end as status
      from own left join counted on counted.release_id = own.id left join mixed on mixed.release_id = own.id
        left join delivered on delivered.release_id = own.id left join approved on approved.release_id = own.id`,
  ],
];

/** A page of an account's releases: those that a search finds, in some order, after one of them. */
export async function listReleases(
  db: Knex,
  accountId: string,
  { search, order, status, after, archived }: ReleaseList = releaseListSchema.parse({}),
): Promise<ReleasePage> {
  const { by, way } = ORDERS[order];
  const inOrder = `${by} ${way}, r.id ${way}`;
  const own = db('releases as r')
    .where('r.account_id', accountId)
    .whereNull('r.removed_at')
    .whereRaw(`r.archived_at is ${archived === undefined ? '' : 'not '}null`)
    .select('r.id');
  // Which of them have a status is known only once those of all are.
  if (status === undefined) void own.orderByRaw(inOrder).limit(PAGE + 1);
  const query = db('releases as r')
    .with('own', own)
    .join('statuses', 'statuses.id', 'r.id')
    .orderByRaw(inOrder)
    .limit(PAGE + 1)
    .select('r.id', 'r.title', 'r.artist', 'r.created_at as createdAt', 'statuses.status')
    .select(db.raw('r.archived_at is not null as archived'))
    .select(db.raw('(select count(*)::int from tracks t where t.release_id = r.id and t.removed_at is null) as tracks'))
    .select(
      db.raw(
        `(select count(*)::int from deliveries d join tracks t on t.id = d.track_id where t.release_id = r.id and t.removed_at is null and d.status = 'finished') as deliveries`,
      ),
    )
    .select(
      db.raw(
        `(select count(*)::int from tracks t where t.release_id = r.id and t.removed_at is null and ${DELIVERED}) as "deliveredTracks"`,
      ),
    )
    .select(mixesIn(db, 'analysing', ['waiting', 'analysing']), mixesIn(db, 'refused', ['refused']));
  if (search !== '') {
    const text = within(search);
    const code = within(search.replace(/[\s-]/g, ''));
    void own.whereRaw(
      `(unaccent(r.title) ilike unaccent(?) or unaccent(r.artist) ilike unaccent(?) or r.ean ilike ? or exists (select from tracks t where t.release_id = r.id
          and t.removed_at is null and (unaccent(t.title) ilike unaccent(?) or unaccent(t.artist) ilike unaccent(?) or t.isrc ilike ?)))`,
      [text, text, code, text, text, code],
    );
  }
  if (after !== undefined)
    void own.whereRaw(
      `(${by}, r.id) ${way === 'desc' ? '<' : '>'} (select ${by}, r.id from releases r where r.id = ? and r.account_id = ?)`,
      [after, accountId],
    );
  for (const [name, text] of STATUSES) void query.with(name, db.raw(text));
  if (status !== undefined) void query.where({ 'statuses.status': status });
  const rows = (await query) as ReleaseSummary[];
  const releases = rows.slice(0, PAGE);
  return { releases, next: rows.length > PAGE ? releases[PAGE - 1].id : null };
}

/** Creates a release with the starting destinations. */
export async function createRelease(
  db: Knex,
  accountId: string,
  { title, artist }: NewRelease,
): Promise<{ id: string }> {
  return db.transaction(async (trx) => {
    const [{ id }] = await trx('releases')
      .insert({ account_id: accountId, title, artist })
      .returning<{ id: string }[]>('id');
    await addStartingDestinations(trx, accountId, id);
    return { id };
  });
}

/** Changes what a release is called and carries, or files it away. */
export async function changeRelease(
  db: Knex,
  accountId: string,
  id: string,
  { archived, ...particulars }: ChangeRelease,
): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'releases', accountId, id, ['id'], { lock: true });
    const filed = archived === undefined ? {} : { archived_at: archived ? trx.fn.now() : null };
    const changes = { ...particulars, ...filed };
    if (Object.keys(changes).length > 0) await trx('releases').where({ id }).update(changes);
  });
}

/** Removes a release with everything in it; it can be restored. */
export async function removeRelease(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'releases', accountId, id, ['id'], { lock: true });
    await trx('releases').where({ id }).update({ removed_at: trx.fn.now() });
  });
}

/** Copies a release with its tracks, their mixes and versions, and its destinations; deliveries stay with the original. */
export async function copyRelease(db: Knex, accountId: string, id: string): Promise<{ id: string }> {
  return db.transaction(async (trx) => {
    const columns = ['title', 'artist', 'year', 'copyright', 'notes', 'cover_hash', 'cover_type'] as const;
    const row = await requireOwn<Pick<ReleaseRow, (typeof columns)[number]>>(trx, 'releases', accountId, id, columns, {
      lock: true,
    });
    const [copy] = await trx('releases')
      .insert({ ...row, account_id: accountId, title: copyTitle(row.title) })
      .returning<{ id: string }[]>('id');
    await trx.raw(
      `insert into destinations (release_id, position, name, settings, shelf_id)
         select ?::uuid, position, name, settings, shelf_id from destinations where release_id = ?`,
      [copy.id, id],
    );
    const tracks = await trx('tracks')
      .where({ release_id: id, removed_at: null })
      .orderBy('position')
      .pluck<string[]>('id');
    for (const [index, track] of tracks.entries()) await copyTrackInto(trx, track, copy.id, { position: index + 1 });
    return copy;
  });
}

interface ReleaseRow extends Omit<ReleaseDetail, 'tracks' | 'archived' | 'destinations' | 'cover'> {
  archived_at: Date | null;
  cover_hash: string | null;
  cover_type: string | null;
}

/** A release with its mixes, without what is known of its masters and deliveries. */
export interface ReleaseWithMixes extends Omit<ReleaseDetail, 'tracks' | 'destinations'> {
  tracks: Omit<TrackSummary, 'master' | 'deliveries' | 'versions' | 'approval'>[];
}

/** Mixes of each track that the page of a release shows besides the one that is used: the newest. */
const MIXES_IN_RELEASE = 5;

/** A release with its tracks and what intake found of each. */
export async function getRelease(db: Knex, accountId: string, id: string): Promise<ReleaseWithMixes> {
  const columns = ['id', 'title', 'artist', 'year', 'ean', 'copyright', 'notes', 'archived_at'] as const;
  const { archived_at, cover_hash, cover_type, ...release } = await requireOwn<ReleaseRow>(
    ...([db, 'releases', accountId, id, [...columns, 'cover_hash', 'cover_type']] as const),
  );
  const tracks = await db('tracks as t')
    .where('t.release_id', id)
    .whereNull('t.removed_at')
    .orderBy('t.position')
    .select<(Omit<ReleaseWithMixes['tracks'][number], 'mix' | 'mixes'> & { mixId: string | null })[]>(
      ...['t.id', 't.title', 't.position', 't.artist', 't.isrc', 't.composer', 't.copyright', 't.notes'],
      ...['t.mix_id as mixId', 't.joint'],
    );
  const mixes = await mixesOf(db, tracks, MIXES_IN_RELEASE);
  return {
    ...release,
    archived: archived_at !== null,
    cover: cover_hash && cover_type ? { hash: cover_hash, type: cover_type } : null,
    tracks: tracks.map(({ mixId: _, joint, ...track }) => ({
      ...track,
      joint: joint === null ? USUAL_JOINT : jointSchema.parse(joint),
      ...mixes.get(track.id)!,
    })),
  };
}
