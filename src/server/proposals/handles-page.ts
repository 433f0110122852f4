import type { Knex } from 'knex';
import type { HandlesPage } from '../../contracts/proposal';
import { withUsualHandles } from '../../core/house/usual-handles';
import { impulseSamples, impulsesOf } from '../impulses/impulses';
import type { LinkRow } from '../listening/links';
import { heardTrack } from '../listening/visitor';
import { mixInUse } from '../mixes/mix-list';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';
import { chosenVersions, versionsById, type ChosenVersion } from '../versions/chosen-version';

const NOT_READY = 'The mix of this track is not ready. Try again when its analysis is done.';

interface MixRow {
  id: string;
  frames: string;
  sampleRate: number;
}

async function pageOf(
  db: Knex,
  trackId: string,
  version: ChosenVersion,
  mixId: string,
  author: string,
): Promise<HandlesPage> {
  const track = await db('tracks as t')
    .join('releases as r', 'r.id', 't.release_id')
    .where('t.id', trackId)
    .first<{ title: string; release: string; releaseId: string }>('t.title', 'r.title as release', 'r.id as releaseId');
  const mix = await db('mixes')
    .where({ id: mixId, status: 'ready', removed_at: null })
    .first<MixRow | undefined>('id', 'frames', 'sample_rate as sampleRate');
  if (!mix) throw new Problem(409, NOT_READY);
  return {
    ...{ trackId, ...track, versionId: version.id, version: version.name, step: version.step, author },
    lane: withUsualHandles(version.lane),
    mix: { ...mix, frames: Number(mix.frames) },
  };
}

/** What an engineer needs to move the handles of a track's chosen version. Throws a Problem: 404 for another's, 409 while it has no mix. */
export async function ownHandles(db: Knex, accountId: string, name: string, trackId: string): Promise<HandlesPage> {
  await requireOwn(db, 'tracks', accountId, trackId, ['id']);
  const mix = await mixInUse(db, trackId);
  if (!mix) throw new Problem(409, NOT_READY);
  const version = (await chosenVersions(db, [trackId])).get(trackId)!;
  return pageOf(db, trackId, version, mix.id, name);
}

/** What a listener needs to move the handles of a track that a link lets them hear. Throws a Problem: 403 where it does not allow it, 404 for other tracks. */
export async function linkHandles(db: Knex, link: LinkRow, trackId: string): Promise<HandlesPage> {
  requireHandles(link);
  const { versionId, mixId } = heardTrack(link, trackId);
  const version = (await versionsById(db, [versionId])).get(versionId);
  if (!version) throw new Problem(409, 'The engineer has replaced this version. Ask for an updated link.');
  return pageOf(db, trackId, version, mixId, link.recipient);
}

/** Throws a Problem (403) unless a link lets its listeners move handles. */
export function requireHandles({ handles }: LinkRow): void {
  if (!handles) throw new Problem(403, 'This link is for listening only. Ask whoever sent it for one with handles.');
}

/** The working file of the mix that a listener's handles work on. Throws a Problem as {@link linkHandles} does. */
export async function mixForHandles(
  db: Knex,
  link: LinkRow,
  trackId: string,
): Promise<{ hash: string; format: string }> {
  requireHandles(link);
  const { mixId } = heardTrack(link, trackId);
  const row = await db('mixes')
    .where({ id: mixId, removed_at: null })
    .first<{ hash: string | null; format: string } | undefined>('working_hash as hash', 'working_format as format');
  if (!row?.hash) throw new Problem(409, NOT_READY);
  return { hash: row.hash, format: row.format };
}

/**
 * An uploaded impulse response that the lane of a listener's handles uses, as {@link impulseSamples} gives it. Throws a Problem as
 * {@link linkHandles} does, and 404 for others.
 */
export async function impulseForHandles(
  db: Knex,
  link: LinkRow,
  trackId: string,
  id: string,
  sampleRate: number,
): Promise<Float32Array> {
  requireHandles(link);
  const { versionId } = heardTrack(link, trackId);
  const { accountId } = await db('releases')
    .where({ id: link.release_id })
    .first<{ accountId: string }>('account_id as accountId');
  const version = (await versionsById(db, [versionId])).get(versionId);
  const used = version ? await impulsesOf(db, accountId, version.lane) : {};
  if (!Object.hasOwn(used, id)) throw new Problem(404, 'This impulse response is not part of what is heard here.');
  return impulseSamples(db, accountId, id, sampleRate);
}
