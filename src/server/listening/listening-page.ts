import type { Knex } from 'knex';
import { makerOf } from '../deliveries/deliveries';
import type { ListeningPage } from '../../contracts/listening';
import { approvedTracks } from './approvals';
import { listenerNotes } from './listener-notes';
import type { LinkRow } from './links';
import { preferenceOf } from './preference';
import { heardSchema, listeningProgrammeSchema } from './programme';

/** Everything a listening page shows. */
export async function listeningPage(db: Knex, link: LinkRow): Promise<ListeningPage> {
  const release = await db('releases')
    .where({ id: link.release_id })
    .first<{ accountId: string }>('account_id as accountId');
  const account = await db('accounts').where({ id: release.accountId }).first<{ name: string }>('name');
  const { studio, engineer } = await makerOf(db, release.accountId);
  const heard = link.heard === null ? null : heardSchema.parse(link.heard);
  const { title, artist } = heard ?? listeningProgrammeSchema.parse(link.programme);
  const tracks = heard?.tracks ?? [];
  return {
    ...{ id: link.id, release: title, artist, studio, engineer: engineer || account.name, recipient: link.recipient },
    ...{ download: link.download, lossless: link.lossless, handles: link.handles },
    sources: heard?.sources ?? [],
    edition: heard?.edition ?? '',
    progress: heard ? 1 : link.progress,
    tracks: tracks.map((track) => ({
      ...{ id: track.trackId, title: track.title, artist: track.artist, version: track.version, other: track.other },
      ...{ startSeconds: track.startSeconds, endSeconds: track.endSeconds, outline: track.outline },
    })),
    notes: await listenerNotes(db, link, tracks),
    approved: await approvedTracks(db, link, tracks),
    preference: heard?.preference ? await preferenceOf(db, link, heard.preference) : null,
  };
}

/** Counts a visit. */
export async function countVisit(db: Knex, { id }: LinkRow): Promise<void> {
  await db('listening_links').where({ id }).increment('visits', 1).update({ last_visit_at: db.fn.now() });
}
