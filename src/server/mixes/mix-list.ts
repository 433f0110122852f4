import type { Knex } from 'knex';
import type { MixSummary } from '../../contracts/release';

/** The mix that is used, of a track's mixes with the newest first: the chosen one, else the newest that is ready. */
function currentMix<Mix extends { id: string; status: string }>(mixes: Mix[], chosenId: string | null): Mix | null {
  const ready = mixes.filter(({ status }) => status === 'ready');
  return ready.find(({ id }) => id === chosenId) ?? ready[0] ?? mixes[0] ?? null;
}

/** The mix that a track is used with, ready or not; null when it has none. */
export async function mixInUse(db: Knex, trackId: string): Promise<{ id: string; status: string } | null> {
  const track = await db('tracks').where({ id: trackId }).first<{ mix_id: string | null }>('mix_id');
  const mixes = await db('mixes')
    .where({ track_id: trackId, removed_at: null })
    .orderBy('number', 'desc')
    .select<{ id: string; status: string }[]>('id', 'status');
  return currentMix(mixes, track.mix_id);
}

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
  db: Knex,
  tracks: Chosen[],
  most: number,
): Promise<Map<string, { mix: MixSummary | null; mixes: MixSummary[] }>> {
  const ids = tracks.map(({ id }) => id);
  const ranked = db('mixes')
    .whereIn('track_id', ids)
    .whereNull('removed_at')
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
      ...['lined_up as linedUp', 'held_because as heldBecause', 'frames'],
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
