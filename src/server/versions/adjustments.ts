import type { Knex } from 'knex';
import type { Adjustment, PlacedAdjustment } from '../../contracts/adjustment';
import { requireDestination } from '../destinations/destinations';
import { requireOwn } from '../ownership';

const NONE: Adjustment = { levelDb: 0, driveDb: 0 };

/** What differs of the versions of tracks, by destination. */
export async function adjustmentsOf(db: Knex, trackIds: readonly string[]): Promise<PlacedAdjustment[]> {
  return db('adjustments as a')
    .join('versions as v', 'v.id', 'a.version_id')
    .whereIn('v.track_id', trackIds)
    .where({ 'v.removed_at': null })
    .select<PlacedAdjustment[]>({
      ...{ versionId: 'a.version_id', destinationId: 'a.destination_id' },
      ...{ levelDb: 'a.level_db', driveDb: 'a.drive_db', step: 'a.step' },
    });
}

/** What differs of a version for a destination. */
export async function adjustmentFor(db: Knex, versionId: string, destinationId: string): Promise<Adjustment> {
  const row = await db('adjustments')
    .where({ version_id: versionId, destination_id: destinationId })
    .first<Adjustment | undefined>({ levelDb: 'level_db', driveDb: 'drive_db' });
  return row ?? NONE;
}

/** Keeps what differs of a version for a destination; nothing is kept where nothing differs. */
export async function keepAdjustment(
  trx: Knex,
  versionId: string,
  destinationId: string,
  { levelDb, driveDb }: Adjustment,
): Promise<void> {
  const place = { version_id: versionId, destination_id: destinationId };
  if (levelDb === 0 && driveDb === 0) await trx('adjustments').where(place).delete();
  else
    await trx('adjustments')
      .insert({
        ...{ ...place, level_db: levelDb, drive_db: driveDb },
        step: trx('versions').where({ id: versionId }).select('current'),
      })
      .onConflict(['version_id', 'destination_id'])
      .merge();
}

/** Sets what differs of a version for a destination of its release. Throws a Problem (404) for another's. */
export async function setAdjustment(
  db: Knex,
  accountId: string,
  versionId: string,
  destinationId: string,
  adjustment: Adjustment,
): Promise<void> {
  await db.transaction(async (trx) => {
    const { track_id } = await requireOwn<{ track_id: string }>(trx, 'versions', accountId, versionId, ['track_id']);
    const { release_id } = await requireOwn<{ release_id: string }>(trx, 'tracks', accountId, track_id, ['release_id']);
    await requireDestination(trx, release_id, destinationId);
    await keepAdjustment(trx, versionId, destinationId, adjustment);
  });
}

/** Gives a copied version what differs of the one it is a copy of: at its first step, where that is of the lane it is a copy of. */
export async function copyAdjustments(trx: Knex, from: string, to: string): Promise<void> {
  await trx.raw(
    `insert into adjustments (version_id, destination_id, level_db, drive_db, step)
       select ?::uuid, a.destination_id, a.level_db, a.drive_db,
         case when a.step is null then null when a.step = v.current then 0 else -1 end
       from adjustments a join versions v on v.id = a.version_id where a.version_id = ?`,
    [to, from],
  );
}
