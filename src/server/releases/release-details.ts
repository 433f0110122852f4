import type { Knex } from 'knex';
import type { ReleaseDetail } from '../../contracts/release';
import { latestDeliveries } from '../deliveries/deliveries';
import { listDestinations } from '../destinations/destinations';
import { mastersOf } from '../measurements/measurements';
import { adjustmentsOf } from '../versions/adjustments';
import { versionNames } from '../versions/chosen-version';
import { approvalsOf } from '../listening/approvals';
import { getRelease } from './releases';

/** Everything the page of a release shows. Throws a Problem (404) for another's. */
export async function getReleaseDetails(db: Knex, accountId: string, id: string): Promise<ReleaseDetail> {
  const release = await getRelease(db, accountId, id);
  const trackIds = release.tracks.map((track) => track.id);
  const versions = await versionNames(db, trackIds);
  const masters = await mastersOf(db, release.tracks);
  const deliveries = await latestDeliveries(db, trackIds);
  const approvals = await approvalsOf(db, trackIds);
  return {
    ...release,
    tracks: release.tracks.map((track) => {
      const master = masters.get(track.id) ?? null;
      return {
        ...{ ...track, master },
        versions: versions.get(track.id) ?? [],
        deliveries: deliveries.get(track.id) ?? [],
        approval: approvals.get(track.id) ?? null,
      };
    }),
    destinations: await listDestinations(db, id),
    adjustments: await adjustmentsOf(db, trackIds),
  };
}
