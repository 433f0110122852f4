import type { Knex } from 'knex';
import type { Approve } from '../../contracts/listening';
import type { Approval } from '../../contracts/release';
import { Problem } from '../problem';
import { APPROVAL_COUNTS } from '../tracks/in-use';
import type { LinkRow } from './links';
import type { Heard } from './programme';
import { heardTrack } from './visitor';

/** Tracks that were approved on a link as they are heard now. */
export async function approvedTracks(db: Knex, { id }: LinkRow, tracks: Heard['tracks']): Promise<string[]> {
  const rows = await db('approvals')
    .where({ link_id: id })
    .select<{ trackId: string; versionId: string; step: number; mixId: string }[]>(
      ...['track_id as trackId', 'version_id as versionId', 'step', 'mix_id as mixId'],
    );
  return tracks
    .filter(({ trackId, versionId, step, mixId }) =>
      rows.some(
        (row) => row.trackId === trackId && row.versionId === versionId && row.step === step && row.mixId === mixId,
      ),
    )
    .map(({ trackId }) => trackId);
}

/** Approves tracks as they are heard, or takes it back. Throws a Problem: 404 for a track that is not heard here, 409 for one whose version or mix was deleted. */
export async function approve(db: Knex, link: LinkRow, { trackIds, approved, author }: Approve): Promise<void> {
  const tracks = [...new Set(trackIds)].map((id) => heardTrack(link, id));
  await db.transaction(async (trx) => {
    await trx('approvals').where({ link_id: link.id }).whereIn('track_id', trackIds).delete();
    if (!approved) return;
    for (const { trackId, versionId, step, mixId, title } of tracks) {
      const there = await trx('versions as v')
        .join('mixes as m', 'm.track_id', 'v.track_id')
        .where({ 'v.id': versionId, 'm.id': mixId, 'v.removed_at': null, 'm.removed_at': null })
        .first<{ id: string } | undefined>('v.id');
      if (!there)
        throw new Problem(409, `The engineer has replaced “${title}”. Ask for an updated link before you approve it.`);
      await trx('approvals').insert({
        ...{ release_id: link.release_id, link_id: link.id, track_id: trackId, version_id: versionId },
        ...{ step, mix_id: mixId, author },
      });
    }
  });
}

/** The approval of each track that counts, else its newest, by track. */
export async function approvalsOf(db: Knex, trackIds: readonly string[]): Promise<Map<string, Approval>> {
  const rows = await db('approvals as a')
    .join('versions as v', 'v.id', 'a.version_id')
    .join('tracks as t', 't.id', 'a.track_id')
    .whereIn('a.track_id', trackIds)
    .distinctOn('a.track_id')
    .orderByRaw(`a.track_id, (${APPROVAL_COUNTS}) desc, a.created_at desc`)
    .select<(Omit<Approval, 'at'> & { trackId: string; at: Date })[]>(
      ...['a.track_id as trackId', 'v.name as version', 'a.author', 'a.created_at as at'],
      db.raw(`(${APPROVAL_COUNTS}) as current`),
    );
  return new Map(rows.map(({ trackId, at, ...row }) => [trackId, { ...row, at: at.toISOString() }]));
}
