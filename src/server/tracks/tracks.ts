import path from 'node:path';
import { EMPTY_LANE } from '../../core/lane/schema';
import { database } from '../database/connection';
import type { SentFile } from '../http/upload';
import { insertMix, receive } from '../mixes/mixes';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';

const MAX_TRACKS = 200;

/** A readable title from a file's name. */
function titleFrom(fileName: string): string {
  const base = path.basename(fileName, path.extname(fileName)).replace(/_+/g, ' ').trim();
  return base.slice(0, 120) || 'Untitled';
}

/** Takes an uploaded mix as a new track of a release. Throws a Problem when it cannot be one. */
export async function receiveTrack(
  accountId: string,
  releaseId: string,
  sent: SentFile,
): Promise<{ trackId: string; mixId: string }> {
  await requireOwn(database(), 'releases', accountId, releaseId, ['id']);
  return receive(accountId, sent, async (trx, mix) => {
    // The release's row serializes uploads that arrive together, so that each gets a place of its own.
    await trx('releases').where({ id: releaseId }).forUpdate().first('id');
    const [{ count }] = await trx('tracks').where({ release_id: releaseId }).count<{ count: string }[]>('id');
    if (Number(count) >= MAX_TRACKS)
      throw new Problem(422, `A release has at most ${MAX_TRACKS} tracks. Start another release.`);
    const last = await trx('tracks').where({ release_id: releaseId }).max<{ max: number | null }[]>('position');
    const [track] = await trx('tracks')
      .insert({ release_id: releaseId, position: (last[0].max ?? 0) + 1, title: titleFrom(sent.fileName) })
      .returning<{ id: string }[]>('id');
    const [version] = await trx('versions')
      .insert({ track_id: track.id, name: 'First version' })
      .returning<{ id: string }[]>('id');
    await trx('edits').insert({
      version_id: version.id,
      sequence: 0,
      label: 'Start',
      lane: JSON.stringify(EMPTY_LANE),
    });
    return { trackId: track.id, mixId: await insertMix(trx, track.id, 1, mix) };
  });
}

/** Removes a track with everything in it; a running analysis or delivery stops. The store's sweep removes its files. */
export async function removeTrack(accountId: string, trackId: string): Promise<void> {
  await database().transaction(async (trx) => {
    await requireOwn(trx, 'tracks', accountId, trackId, ['id'], { lock: true });
    await trx('deliveries').where({ track_id: trackId }).delete();
    await trx('tracks').where({ id: trackId }).delete();
  });
}
