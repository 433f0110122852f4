import type { ReleaseDetail } from '../../contracts/release';
import { database } from '../database/connection';
import { latestDeliveries } from '../deliveries/deliveries';
import { listDestinations } from '../destinations/destinations';
import { mastersOf } from '../measurements/measurements';
import { adjustmentsOf } from '../versions/adjustments';
import { versionNames } from '../versions/chosen-version';
import { approvalsOf } from '../listening/approvals';
import { getRelease } from './releases';

/** Everything the page of a release shows. Throws a Problem (404) for another's. */
export async function getReleaseDetails(accountId: string, id: string): Promise<ReleaseDetail> {
  const release = await getRelease(accountId, id);
  const trackIds = release.tracks.map((track) => track.id);
  const versions = await versionNames(database(), trackIds);
  const masters = await mastersOf(release.tracks);
  const deliveries = await latestDeliveries(database(), trackIds);
  const approvals = await approvalsOf(database(), trackIds);
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
    destinations: await listDestinations(database(), id),
    adjustments: await adjustmentsOf(database(), trackIds),
  };
}
