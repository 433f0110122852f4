import { makerOf } from '../deliveries/deliveries';
import type { ListeningPage } from '../../contracts/listening';
import { database } from '../database/connection';
import { approvedTracks } from './approvals';
import { listenerNotes } from './listener-notes';
import type { LinkRow } from './links';
import { preferenceOf } from './preference';
import { heardSchema, listeningProgrammeSchema } from './programme';

/** Everything a listening page shows. */
export async function listeningPage(link: LinkRow): Promise<ListeningPage> {
  const db = database();
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
    notes: await listenerNotes(link, tracks),
    approved: await approvedTracks(link, tracks),
    preference: heard?.preference ? await preferenceOf(link, heard.preference) : null,
  };
}

/** Counts a visit. */
export async function countVisit({ id }: LinkRow): Promise<void> {
  const db = database();
  await db('listening_links').where({ id }).increment('visits', 1).update({ last_visit_at: db.fn.now() });
}
