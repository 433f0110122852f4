import type { Knex } from 'knex';
import { EMPTY_LANE } from '../../core/lane/schema';
import { withEdgesOf } from '../../core/lane/lane-edges';
import { partsOf } from '../images/image-parts';
import { listeningProgrammeSchema, type ListeningProgramme } from './programme';
import type { StreamOrder } from './render-streams';

/** What a worker needs to render what is heard on a link; undefined when a mix is gone. */
export async function streamOrder(
  db: Knex,
  id: string,
): Promise<{ order: StreamOrder; programme: ListeningProgramme; releaseId: string } | undefined> {
  const row = await db('listening_links as l')
    .join('releases as r', 'r.id', 'l.release_id')
    .where('l.id', id)
    .first<
      { programme: unknown; download: boolean; lossless: boolean; releaseId: string; accountId: string } | undefined
    >(...['l.programme', 'l.download', 'l.lossless', 'r.id as releaseId', 'r.account_id as accountId']);
  if (!row) return undefined;
  const programme = listeningProgrammeSchema.parse(row.programme);
  const decided = programme.tracks.map(({ master, other, ...track }) => ({
    ...{ ...track, isrc: '', levelDb: 0, version: master.name, lane: master.lane },
    other,
  }));
  const masters = await partsOf(db, row.accountId, decided);
  const mixes = await partsOf(
    db,
    row.accountId,
    decided.map((track) => ({ ...track, lane: withEdgesOf(EMPTY_LANE, track.lane) })),
  );
  // Everything is heard at the same places: the edges are those of the master.
  const others = programme.tracks.some(({ other }) => other)
    ? await partsOf(
        db,
        row.accountId,
        decided.map((track) => ({ ...track, lane: withEdgesOf(track.other?.lane ?? track.lane, track.lane) })),
      )
    : null;
  if (!masters || !mixes || others === undefined) return undefined;
  const { lossless, download } = row;
  const { preference } = programme;
  const blind = preference && {
    track: programme.tracks.findIndex(({ trackId }) => trackId === preference.trackId),
    between: preference.between,
  };
  return { order: { masters, mixes, others, lossless, download, blind }, programme, releaseId: row.releaseId };
}
