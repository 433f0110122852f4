import { destinationSchema } from '../../core/deliver/destination';
import { database } from '../database/connection';
import { notFound, Problem } from '../problem';
import { listDeliveries } from '../deliveries/deliveries';
import { MAX_MIXES } from '../mixes/mixes';
import { getRelease, mixesOf } from '../releases/releases';
import { VERSION_COLUMNS, versionState, type VersionRow } from '../versions/versions';
import type { TrackDetails } from '../../contracts/track';

export async function getWorkspace(accountId: string, trackId: string): Promise<TrackDetails> {
  const db = database();
  const row = await db('tracks')
    .where({ id: trackId })
    .first<{ release_id: string; mix_id: string | null } | undefined>('release_id', 'mix_id');
  if (!row) throw notFound('track');
  // A release of another account answers 404 here.
  const { tracks, ...release } = await getRelease(accountId, row.release_id).catch((error: unknown) => {
    throw error instanceof Problem && error.status === 404 ? notFound('track') : error;
  });
  const index = tracks.findIndex(({ id }) => id === trackId);
  const versions = await db('versions')
    .where({ track_id: trackId })
    .orderBy('created_at')
    .select<VersionRow[]>(...VERSION_COLUMNS);
  const destinations = await db('destinations')
    .where({ release_id: release.id })
    .orderBy('position')
    .select<{ id: string; settings: unknown }[]>('id', 'settings');
  const { id, title, position } = tracks[index];
  const { mix, mixes } = (await mixesOf([{ id, mixId: row.mix_id }], MAX_MIXES)).get(id)!;
  return {
    track: { id, title, position },
    release,
    previousTrackId: tracks[index - 1]?.id ?? null,
    nextTrackId: tracks[index + 1]?.id ?? null,
    mix,
    mixes,
    tracks: tracks.map((track) => ({ id: track.id, title: track.title, position: track.position })),
    versions: await Promise.all(versions.map((version) => versionState(db, version))),
    destinations: destinations.map((destination) => ({
      id: destination.id,
      settings: destinationSchema.parse(destination.settings),
    })),
    deliveries: await listDeliveries(db, { 'd.track_id': trackId }),
  };
}
