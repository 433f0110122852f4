import { STARTING_DESTINATIONS } from '../../core/deliver/destination';
import { database } from '../database/connection';
import { notFound } from '../problem';
import type { MixSummary, NewRelease, ReleaseDetail, ReleasePage, ReleaseSummary } from '../../contracts/release';

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
    await trx('destinations').insert(
      STARTING_DESTINATIONS.map((settings, position) => ({
        release_id: id,
        position,
        settings: JSON.stringify(settings),
      })),
    );
    return { id };
  });
}

/** Throws a Problem (404) unless the release belongs to the account. */
export async function ownRelease(
  accountId: string,
  id: string,
): Promise<{ id: string; title: string; artist: string }> {
  const release = await database()('releases')
    .where({ id, account_id: accountId })
    .first<{ id: string; title: string; artist: string } | undefined>('id', 'title', 'artist');
  if (!release) throw notFound('release');
  return release;
}

/** A release with its tracks and what intake found of each. */
export async function getRelease(accountId: string, id: string): Promise<ReleaseDetail> {
  const release = await ownRelease(accountId, id);
  const db = database();
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

/** The mix that is used, of a track's mixes with the newest first: the chosen one, else the newest that is ready. */
export function currentMix<Mix extends { id: string; status: string }>(
  mixes: Mix[],
  chosenId: string | null,
): Mix | null {
  const ready = mixes.filter(({ status }) => status === 'ready');
  return ready.find(({ id }) => id === chosenId) ?? ready[0] ?? mixes[0] ?? null;
}

/** Mixes of each track that the page of a release shows besides the one that is used: the newest. */
const MIXES_IN_RELEASE = 5;

/** A track and the mix that was chosen to be used. */
interface Chosen {
  id: string;
  mixId: string | null;
}

/**
 * The mixes of each track, the newest first and at most so many, and the one that is used. Only that one and the one it
 * is compared with carry their reports.
 */
export async function mixesOf(
  tracks: Chosen[],
  most: number,
): Promise<Map<string, { mix: MixSummary | null; mixes: MixSummary[] }>> {
  const db = database();
  const ids = tracks.map(({ id }) => id);
  const ranked = db('mixes')
    .whereIn('track_id', ids)
    .select('*')
    .select(db.raw('row_number() over (partition by track_id order by number desc) as rank'))
    .select(db.raw('row_number() over (partition by track_id, status order by number desc) as rank_in_status'));
  const rows = await db
    .from(ranked.as('m'))
    .where((shown) => {
      void shown
        .where('rank', '<=', most)
        .orWhere({ status: 'ready', rank_in_status: 1 })
        .orWhereIn(
          'id',
          tracks.flatMap(({ mixId }) => mixId ?? []),
        );
    })
    .orderBy('number', 'desc')
    .select<(MixSummary & { trackId: string })[]>(
      ...['id', 'track_id as trackId', 'number', 'file_name as fileName', 'status', 'progress', 'refusal', 'source'],
      ...['lined_up as linedUp', 'held_because as heldBecause'],
    );
  const found = new Map(
    tracks.map(({ id, mixId }) => {
      const mixes = rows.flatMap(({ trackId, ...mix }) => (trackId === id ? [{ ...mix, report: null }] : []));
      return [id, { mix: currentMix<MixSummary>(mixes, mixId), mixes: mixes }];
    }),
  );
  const compared = [...found.values()].flatMap(({ mix, mixes }) =>
    mix ? [mix, ...mixes.filter(({ number }) => number === mix.linedUp?.toMix)] : [],
  );
  const reports = await db('mixes')
    .whereIn(
      'id',
      compared.map(({ id }) => id),
    )
    .select<{ id: string; findings: MixSummary['report'] }[]>('id', 'findings');
  const byId = new Map(reports.map(({ id, findings }) => [id, findings]));
  for (const mix of compared) mix.report = byId.get(mix.id) ?? null;
  return found;
}
