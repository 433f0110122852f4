import type { Knex } from 'knex';
import type { LevelledRelease, LevelRelease } from '../../contracts/release';
import { movedTo, trimAtEnd } from '../../core/deliver/meet';
import { change } from '../../core/measure/figure';
import { requireOwn } from '../ownership';
import { notFound } from '../problem';
import { changeLane, stepWithin } from '../versions/versions';

/** Throws a Problem (404) unless all versions belong to tracks of the release. */
async function requireVersionsOf(trx: Knex, accountId: string, releaseId: string, ids: string[]): Promise<void> {
  await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
  const own = await trx('versions as v')
    .join('tracks as t', 't.id', 'v.track_id')
    .where({ 't.release_id': releaseId, 't.removed_at': null, 'v.removed_at': null })
    .whereIn('v.id', ids)
    .pluck<string[]>('v.id');
  if (own.length !== new Set(ids).size) throw notFound('version');
}

/**
 * Trims versions of a release at the end of their lanes, all of them or none: a step in the history of each. Throws a Problem:
 * 404 for another's, 409 when one is at another step by now.
 */
export async function levelRelease(
  db: Knex,
  accountId: string,
  releaseId: string,
  { trims }: LevelRelease,
): Promise<LevelledRelease> {
  return db.transaction(async (trx) => {
    await requireVersionsOf(...([trx, accountId, releaseId, trims.map(({ versionId }) => versionId)] as const));
    const steps: LevelledRelease['steps'] = [];
    for (const { versionId, after, trimDb } of trims) {
      const label = `Level the release: ${change(trimDb)} dB`;
      const step = await changeLane(trx, accountId, { versionId, after, label }, (lane) => {
        const trim = trimAtEnd(lane);
        return movedTo(lane, trim, Math.max(trim.min, Math.min(trim.max, Math.round(10 * (trim.value + trimDb)) / 10)));
      });
      steps.push({ versionId, step });
    }
    return { steps };
  });
}

/** Takes levelling back, all of it or nothing. Throws a Problem (409) when a version was changed since. */
export async function undoLevelling(
  db: Knex,
  accountId: string,
  releaseId: string,
  { steps }: LevelledRelease,
): Promise<void> {
  await db.transaction(async (trx) => {
    await requireVersionsOf(...([trx, accountId, releaseId, steps.map(({ versionId }) => versionId)] as const));
    for (const { versionId, step } of steps) await stepWithin(trx, accountId, versionId, -1, step);
  });
}
