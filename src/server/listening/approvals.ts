import type { Knex } from 'knex';
import type { Approve } from '../../contracts/listening';
import type { Approval } from '../../contracts/release';
import { database } from '../database/connection';
import { Problem } from '../problem';
import type { LinkRow } from './links';
import type { Heard } from './programme';
import { heardTrack } from './visitor';

/** Tracks that were approved on a link as they are heard now. */
export async function approvedTracks({ id }: LinkRow, tracks: Heard['tracks']): Promise<string[]> {
  const rows = await database()('approvals')
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
export async function approve(link: LinkRow, { trackIds, approved, author }: Approve): Promise<void> {
  const tracks = [...new Set(trackIds)].map((id) => heardTrack(link, id));
  await database().transaction(async (trx) => {
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

interface ApprovalRow {
  trackId: string;
  versionId: string;
  version: string;
  step: number;
  mixId: string;
  author: string;
  at: Date;
}

/** The newest approval of each track, by track. */
export async function approvalsOf(db: Knex, trackIds: readonly string[]): Promise<Map<string, ApprovalRow>> {
  const rows = await db('approvals as a')
    .join('versions as v', 'v.id', 'a.version_id')
    .whereIn('a.track_id', trackIds)
    .distinctOn('a.track_id')
    .orderBy([{ column: 'a.track_id' }, { column: 'a.created_at', order: 'desc' }])
    .select<ApprovalRow[]>(
      ...['a.track_id as trackId', 'a.version_id as versionId', 'v.name as version', 'a.step'],
      ...['a.mix_id as mixId', 'a.author', 'a.created_at as at'],
    );
  return new Map(rows.map((row) => [row.trackId, row]));
}

/** An approval beside what a track is now: its mix, and its chosen version with the step that it is at. */
export function approvalOf(
  row: ApprovalRow | undefined,
  now: { mixId?: string; versionId?: string; step?: number },
): Approval | null {
  if (!row) return null;
  const { author, version, at } = row;
  const current = row.mixId === now.mixId && row.versionId === now.versionId && row.step === now.step;
  return { author, version, current, at: at.toISOString() };
}
