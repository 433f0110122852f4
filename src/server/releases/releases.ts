import { database } from '../database/connection';
import { mixesOf } from '../mixes/mix-list';
import { addStartingDestinations } from '../destinations/destinations';
import { requireOwn } from '../ownership';
import type { NewRelease, ReleaseDetail, ReleasePage, ReleaseSummary } from '../../contracts/release';

/** Releases shown at once. */
const PAGE = 50;

/** Releases of an account, the newest first: those after one with an identifier. */
export async function listReleases(accountId: string, after: string | null): Promise<ReleasePage> {
  const db = database();
  const query = db('releases as r')
    .where('r.account_id', accountId)
    .orderBy([
      { column: 'r.created_at', order: 'desc' },
      { column: 'r.id', order: 'desc' },
    ])
    .limit(PAGE + 1)
    .select('r.id', 'r.title', 'r.artist', 'r.created_at as createdAt')
    .select(db.raw('(select count(*)::int from tracks t where t.release_id = r.id) as tracks'))
    .select(
      db.raw(
        `(select count(*)::int from deliveries d join tracks t on t.id = d.track_id where t.release_id = r.id and d.status = 'finished') as deliveries`,
      ),
    );
  if (after !== null)
    void query.whereRaw(
      '(r.created_at, r.id) < (select created_at, id from releases where id = ? and account_id = ?)',
      [after, accountId],
    );
  const rows = (await query) as ReleaseSummary[];
  const releases = rows.slice(0, PAGE);
  return { releases, next: rows.length > PAGE ? releases[PAGE - 1].id : null };
}

/** Creates a release with the starting destinations. */
export async function createRelease(accountId: string, { title, artist }: NewRelease): Promise<{ id: string }> {
  return database().transaction(async (trx) => {
    const [{ id }] = await trx('releases')
      .insert({ account_id: accountId, title, artist })
      .returning<{ id: string }[]>('id');
    await addStartingDestinations(trx, id);
    return { id };
  });
}

/** Mixes of each track that the page of a release shows besides the one that is used: the newest. */
const MIXES_IN_RELEASE = 5;

/** A release with its tracks and what intake found of each. */
export async function getRelease(accountId: string, id: string): Promise<ReleaseDetail> {
  const db = database();
  const columns = ['id', 'title', 'artist'] as const;
  const release = await requireOwn<{ id: string; title: string; artist: string }>(
    db,
    'releases',
    accountId,
    id,
    columns,
  );
  const tracks = await db('tracks as t')
    .where('t.release_id', id)
    .orderBy('t.position')
    .select<{ id: string; title: string; position: number; mixId: string | null; deliveries: number }[]>(
      't.id',
      't.title',
      't.position',
      't.mix_id as mixId',
      db.raw(
        `(select count(*)::int from deliveries d where d.track_id = t.id and d.status = 'finished') as deliveries`,
      ),
    );
  const mixes = await mixesOf(tracks, MIXES_IN_RELEASE);
  return {
    ...release,
    tracks: tracks.map(({ mixId: _, ...track }) => ({ ...track, ...mixes.get(track.id)! })),
  };
}
