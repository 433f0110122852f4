import type { Knex } from 'knex';
import { z } from 'zod';
import { parseLane, type Lane } from '../../core/lane/schema';
import {
  type copyVersionSchema,
  pinSchema,
  stepFiguresSchema,
  type Pin,
  type SaveLane,
  type Steps,
  type VersionState,
} from '../../contracts/version';
import { mixInUse } from '../mixes/mix-list';
import { writeOrder } from '../order';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';
import { copyAdjustments } from './adjustments';

/** Steps of history kept for a version. */
const HISTORY = 500;
const MAX_VERSIONS = 50;

export interface VersionRow {
  id: string;
  name: string;
  current: number;
  pins: Pin[];
  created_at: Date;
}

export const VERSION_COLUMNS = ['id', 'name', 'current', 'pins', 'created_at'] as const;

function lockOwn(trx: Knex, accountId: string, versionId: string): Promise<VersionRow> {
  return requireOwn<VersionRow>(trx, 'versions', accountId, versionId, VERSION_COLUMNS, { lock: true });
}

/** State of a version whose owner was checked. */
export async function versionState(
  trx: Knex,
  { id, name, current, pins, created_at }: VersionRow,
): Promise<VersionState> {
  const near = await trx('edits')
    .where({ version_id: id })
    .whereBetween('sequence', [current - 1, current + 1])
    .select<{ sequence: number; label: string; lane: unknown }[]>('sequence', 'label', 'lane');
  const at = (sequence: number) => near.find((edit) => edit.sequence === sequence);
  const now = at(current);
  if (!now) throw new Error('The version has lost its current step.');
  return {
    id,
    name,
    step: current,
    lane: parseLane(now.lane),
    undo: at(current - 1) ? now.label : null,
    redo: at(current + 1)?.label ?? null,
    pins: z.array(pinSchema).parse(pins),
    createdAt: created_at.toISOString(),
  };
}

/** Throws a Problem (409) when a version is no longer at the step that a window knows. */
function requireStep({ current }: VersionRow, step: number): void {
  if (current === step) return;
  throw new Problem(409, 'This version was changed in another window. Reload the page to continue from there.', {
    code: 'versionChanged',
  });
}

/** Saves a changed lane as the next step, or into the present one; after a new step those that were undone are dropped. Throws a Problem (409) when another window changed it. */
export async function saveLane(
  db: Knex,
  accountId: string,
  versionId: string,
  { lane, label, after, amends }: SaveLane,
): Promise<VersionState> {
  return db.transaction(async (trx) => {
    const row = await lockOwn(trx, accountId, versionId);
    requireStep(row, after);
    if (amends) {
      await trx('edits')
        .where({ version_id: versionId, sequence: after })
        .update({ lane: JSON.stringify(lane), figures: null });
      return versionState(trx, row);
    }
    return versionState(trx, { ...row, current: await addStep(trx, row, lane, label) });
  });
}

/** Adds a step after the present one of a version that is locked; what could be redone is gone. Gives its number. */
async function addStep(trx: Knex, { id, current }: VersionRow, lane: Lane, label: string): Promise<number> {
  const next = current + 1;
  await trx('edits').where({ version_id: id }).andWhere('sequence', '>', current).delete();
  await trx('edits')
    .where({ version_id: id })
    .andWhere('sequence', '<', next - HISTORY)
    .delete();
  await trx('edits').insert({ version_id: id, sequence: next, label, lane: JSON.stringify(lane) });
  await trx('versions').where({ id }).update({ current: next });
  return next;
}

/**
 * Changes the lane of a version at a step, within a transaction, and gives the number of the new step. Throws a Problem: 404
 * for another's, 409 when the version is at another step by now.
 */
export async function changeLane(
  trx: Knex,
  accountId: string,
  { versionId, after, label }: { versionId: string; after: number; label: string },
  change: (lane: Lane) => Lane,
): Promise<number> {
  const row = await lockOwn(trx, accountId, versionId);
  requireStep(row, after);
  const { lane } = await versionState(trx, row);
  return addStep(trx, row, change(lane), label);
}

/**
 * Goes one step back (−1) or forward (1) from step `after`; stays where it is at the end of the history. Throws a Problem
 * (409) when another window changed the version.
 */
export async function stepThrough(
  db: Knex,
  accountId: string,
  versionId: string,
  direction: -1 | 1,
  after: number,
): Promise<VersionState> {
  return db.transaction((trx) => stepWithin(trx, accountId, versionId, direction, after));
}

/** The same within a transaction. */
export async function stepWithin(
  trx: Knex,
  accountId: string,
  versionId: string,
  direction: -1 | 1,
  after: number,
): Promise<VersionState> {
  const row = await lockOwn(trx, accountId, versionId);
  requireStep(row, after);
  const target = row.current + direction;
  const exists = await trx('edits')
    .where({ version_id: versionId, sequence: target })
    .first<{ sequence: number } | undefined>('sequence');
  if (!exists) return versionState(trx, row);
  await trx('versions').where({ id: versionId }).update({ current: target });
  return versionState(trx, { ...row, current: target });
}

interface EditRow {
  sequence: number;
  label: string;
  created_at: Date;
  figures: { mixId: string } | null;
}

/** The steps of a version's history, the newest first. */
export async function stepsOf(db: Knex, accountId: string, versionId: string): Promise<Steps> {
  const { track_id } = await requireOwn<{ track_id: string }>(db, 'versions', accountId, versionId, ['track_id']);
  const mix = await mixInUse(db, track_id);
  const edits = await db('edits')
    .where({ version_id: versionId })
    .orderBy('sequence', 'desc')
    .select<EditRow[]>('sequence', 'label', 'created_at', 'figures');
  return edits.map(({ sequence, label, created_at, figures }) => ({
    step: sequence,
    label,
    at: created_at.toISOString(),
    figures: figures?.mixId === mix?.id ? stepFiguresSchema.nullable().catch(null).parse(figures) : null,
  }));
}

/**
 * Makes a new version of a track that begins with the lane of another, as it stands or as it was after a step. Throws a
 * Problem (404) when the history does not reach back to that.
 */
export async function copyVersion(
  db: Knex,
  accountId: string,
  versionId: string,
  { name, step }: z.infer<typeof copyVersionSchema>,
): Promise<VersionState> {
  return db.transaction(async (trx) => {
    const row = await lockOwn(trx, accountId, versionId);
    const edit = await trx('edits')
      .where({ version_id: versionId, sequence: step ?? row.current })
      .first<{ lane: unknown } | undefined>('lane');
    if (!edit) throw new Problem(404, 'That step is no longer in the history. Reload the page.');
    const lane = parseLane(edit.lane);
    const { track_id } = await requireOwn<{ track_id: string }>(trx, 'versions', accountId, versionId, ['track_id']);
    const present = trx('versions').where({ track_id, removed_at: null });
    const [{ count, last }] = await present
      .count('id as count')
      .max<{ count: string; last: number }[]>('position as last');
    if (Number(count) >= MAX_VERSIONS)
      throw new Problem(422, `A track has at most ${MAX_VERSIONS} versions. Delete one that is no longer needed.`);
    const [copy] = await trx('versions')
      .insert({
        track_id,
        name,
        position: last + 1,
        pins: JSON.stringify(row.pins),
      })
      .returning<VersionRow[]>([...VERSION_COLUMNS]);
    await trx('edits').insert({ version_id: copy.id, sequence: 0, label: 'Start', lane: JSON.stringify(lane) });
    await copyAdjustments(trx, versionId, copy.id);
    return versionState(trx, copy);
  });
}

/** Saves the remembered positions of a version's controls; they are no part of its history. */
export async function savePins(db: Knex, accountId: string, versionId: string, pins: Pin[]): Promise<void> {
  await db.transaction(async (trx) => {
    await lockOwn(trx, accountId, versionId);
    await trx('versions')
      .where({ id: versionId })
      .update({ pins: JSON.stringify(pins) });
  });
}

export async function renameVersion(db: Knex, accountId: string, versionId: string, name: string): Promise<void> {
  await db.transaction(async (trx) => {
    await lockOwn(trx, accountId, versionId);
    await trx('versions').where({ id: versionId }).update({ name });
  });
}

/** Puts the versions of a track in another order. Throws a Problem (409) when the list is not of its versions. */
export async function orderVersions(db: Knex, accountId: string, trackId: string, ids: string[]): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'tracks', accountId, trackId, ['id'], { lock: true });
    await writeOrder(trx, 'versions', { track_id: trackId }, ids);
  });
}

/** Removes one of several versions; it can be restored. Its deliveries stay. Throws a Problem (409) for the only one. */
export async function removeVersion(db: Knex, accountId: string, versionId: string): Promise<void> {
  await db.transaction(async (trx) => {
    const { track_id } = await requireOwn<{ track_id: string }>(trx, 'versions', accountId, versionId, ['track_id']);
    await requireOwn(trx, 'tracks', accountId, track_id, ['id'], { lock: true });
    const [{ count }] = await trx('versions').where({ track_id, removed_at: null }).count<{ count: string }[]>('id');
    if (Number(count) === 1) throw new Problem(409, 'A track needs a version. Save another one first.');
    await trx('versions').where({ id: versionId }).update({ removed_at: trx.fn.now() });
  });
}
