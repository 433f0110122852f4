import { STARTING_DESTINATIONS } from '../../core/deliver/destination';
import { database } from '../database/connection';
import { notFound } from '../problem';
import type { MixSummary, NewRelease, ReleaseDetail, ReleaseSummary } from '../../exchange/release';

/** Releases of an account, the newest first. */
export async function listReleases(accountId: string): Promise<ReleaseSummary[]> {
  const db = database();
  const rows = await db('releases as r')
    .where('r.account_id', accountId)
    .orderBy('r.created_at', 'desc')
    .select('r.id', 'r.title', 'r.artist', 'r.created_at as createdAt')
    .select(db.raw('(select count(*)::int from tracks t where t.release_id = r.id) as tracks'))
    .select(
      db.raw(
        `(select count(*)::int from deliveries d join tracks t on t.id = d.track_id where t.release_id = r.id and d.status = 'finished') as deliveries`,
      ),
    );
  return rows as ReleaseSummary[];
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
  const mixes = await mixesOf(tracks.map((track) => track.id));
  return {
    ...release,
    tracks: tracks.map(({ mixId, ...track }) => {
      const own = mixes.get(track.id) ?? [];
      return { ...track, mix: currentMix(own, mixId), mixes: own };
    }),
  };
}

/** The mix that is worked on, of a track's mixes with the newest first: the chosen one, else the newest that is ready. */
export function currentMix<Mix extends { id: string; status: string }>(
  mixes: Mix[],
  chosenId: string | null,
): Mix | null {
  const ready = mixes.filter(({ status }) => status === 'ready');
  return ready.find(({ id }) => id === chosenId) ?? ready[0] ?? mixes[0] ?? null;
}

/** The mixes of each track, the newest first. */
async function mixesOf(trackIds: string[]): Promise<Map<string, MixSummary[]>> {
  const rows = await database()('mixes')
    .whereIn('track_id', trackIds)
    .orderBy('number', 'desc')
    .select<(MixSummary & { trackId: string })[]>(
      ...['id', 'track_id as trackId', 'number', 'file_name as fileName', 'status', 'progress', 'refusal', 'source'],
      ...['findings as report', 'lined_up as linedUp'],
    );
  const mixes = new Map<string, MixSummary[]>();
  for (const { trackId, ...mix } of rows) mixes.set(trackId, [...(mixes.get(trackId) ?? []), mix]);
  return mixes;
}
