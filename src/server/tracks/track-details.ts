import type { Knex } from 'knex';
import type { TrackDetails } from '../../contracts/track';
import { tagsOf } from '../../core/deliver/tags';
import { listDeliveries } from '../deliveries/deliveries';
import { mixesOf } from '../mixes/mix-list';
import { encodesOfMix } from '../encodes/encode-checks';
import { adjustmentsOf } from '../versions/adjustments';
import { notesOf } from '../notes/notes';
import { MAX_MIXES } from '../mixes/mixes';
import { listDestinations } from '../destinations/destinations';
import { listReferences } from '../references/references';
import { requireOwn } from '../ownership';
import { getRelease } from '../releases/releases';
import { candidatesOf } from './candidates';
import { chosenVersions } from '../versions/chosen-version';
import { VERSION_COLUMNS, versionState, type VersionRow } from '../versions/versions';

/** Everything the workspace of a track shows. Throws a Problem (404) for another's. */
export async function getTrackDetails(db: Knex, accountId: string, trackId: string): Promise<TrackDetails> {
  const columns = ['release_id', 'mix_id'] as const;
  const row = await requireOwn<{ release_id: string; mix_id: string | null }>(
    db,
    'tracks',
    accountId,
    trackId,
    columns,
  );
  const { tracks, ...release } = await getRelease(db, accountId, row.release_id);
  const index = tracks.findIndex(({ id }) => id === trackId);
  const versions = await db('versions')
    .where({ track_id: trackId, removed_at: null })
    .orderBy(['position', 'created_at'])
    .select<VersionRow[]>(...VERSION_COLUMNS);
  const { id, title, position } = tracks[index];
  const { mix, mixes } = (await mixesOf(db, [{ id, mixId: row.mix_id }], MAX_MIXES)).get(id)!;
  return {
    track: { id, title, position, chosenVersionId: (await chosenVersions(db, [id])).get(id)!.id },
    release,
    previousTrackId: tracks[index - 1]?.id ?? null,
    nextTrackId: tracks[index + 1]?.id ?? null,
    mix,
    mixes,
    tracks: tracks.map((track) => ({ id: track.id, title: track.title, position: track.position })),
    versions: await Promise.all(versions.map((version) => versionState(db, version))),
    destinations: await listDestinations(db, release.id),
    tags: tagsOf({
      ...{ title, position, tracks: tracks.length, composer: tracks[index].composer, isrc: tracks[index].isrc },
      ...{ trackArtist: tracks[index].artist, trackCopyright: tracks[index].copyright },
      ...{ release: release.title, releaseArtist: release.artist, releaseCopyright: release.copyright },
      ...{ ean: release.ean, year: release.year },
    }),
    deliveries: await listDeliveries(db, { 'd.track_id': trackId }),
    candidates: await candidatesOf(db, trackId),
    notes: await notesOf(db, trackId),
    adjustments: await adjustmentsOf(db, [trackId]),
    encodes: mix ? await encodesOfMix(db, mix.id) : [],
    references: await listReferences(db, accountId),
  };
}
