import type { Knex } from 'knex';
import type { Encode } from '../../core/deliver/encode';
import type { Lane } from '../../core/lane/schema';
import { chosenVersions } from '../versions/chosen-version';
import { type MasterSummary, masterSummary, masterSummarySchema } from '../../core/measure/master-summary';
import { checkedEncodes, type EncodeResult } from '../../contracts/encode-check';
import type { MasterState } from '../../contracts/release';
import { stepFiguresSchema } from '../../contracts/version';
import {
  type KeptMeasurement,
  measurementKey,
  MOST_KEPT_BYTES,
  unpackMeasurement,
} from '../../engine/measure/kept-measurement';
import { enqueue } from '../jobs/queue';
import { Problem } from '../problem';
import { subjectOf } from './subject';

/** The largest measurement that a page may send. */
export const MOST_BYTES = MOST_KEPT_BYTES;
/** Measurements kept of a mix: of the lanes that were measured last. */
const KEPT_OF_A_MIX = 12;

/** The kept measurement of a version's lane as it stands, as bytes; null when there is none. */
export async function keptMeasurement(db: Knex, accountId: string, versionId: string): Promise<Uint8Array | null> {
  const { mixId, lane } = await subjectOf(db, accountId, versionId);
  const row = await db('measurements')
    .where({ mix_id: mixId, key: await measurementKey(mixId, lane), status: 'finished' })
    .first<{ data: Buffer | null } | undefined>('data');
  return row?.data ?? null;
}

/**
 * Keeps what a page measured of a version's lane. Throws a Problem: 422 when the bytes are not a measurement, 409 when
 * it is of another lane than the one that is saved.
 */
export async function keepMeasurement(
  db: Knex,
  accountId: string,
  versionId: string,
  bytes: Uint8Array,
): Promise<void> {
  const { key, measurement } = readMeasurement(bytes);
  await db.transaction(async (trx) => {
    const { mixId, name, lane, step } = await subjectOf(trx, accountId, versionId);
    if (key !== (await measurementKey(mixId, lane)) || measurement.joints.length !== lane.stages.length + 1)
      throw new Problem(
        409,
        `The measurement is not of “${name}” as it is saved. The server measures that version itself.`,
      );
    const summary = masterSummary(measurement);
    const kept = {
      status: 'finished',
      progress: 1,
      problem: null,
      lease_token: null,
      summary: JSON.stringify(summary),
      data: Buffer.from(bytes),
    };
    await trx('measurements')
      .insert({ mix_id: mixId, key, lane: JSON.stringify(lane), ...kept })
      .onConflict(['mix_id', 'key'])
      .merge(kept);
    await forgetOlder(trx, mixId);
    await trx('edits')
      .where({ version_id: versionId, sequence: step })
      .update({ figures: JSON.stringify({ mixId, ...stepFiguresSchema.parse(summary) }) });
  });
}

function readMeasurement(bytes: Uint8Array): KeptMeasurement {
  try {
    return unpackMeasurement(bytes);
  } catch {
    throw new Problem(422, 'This is not a measurement that the server can read. Reload the page.');
  }
}

async function forgetOlder(trx: Knex, mixId: string): Promise<void> {
  const newest = trx('measurements')
    .where({ mix_id: mixId })
    .orderBy('created_at', 'desc')
    .limit(KEPT_OF_A_MIX)
    .select('id');
  await trx('measurements').where({ mix_id: mixId }).whereNotIn('id', newest).delete();
}

/** A track with the mix that it is used with, when that is ready. */
interface ListedTrack {
  id: string;
  mix: { id: string; status: string } | null;
}

/**
 * What is known of the master of each track: of its chosen version, through the mix in use. What was not measured yet is
 * queued.
 */
export async function mastersOf(db: Knex, tracks: readonly ListedTrack[]): Promise<Map<string, MasterState>> {
  const ready = tracks.flatMap(({ id, mix }) => (mix?.status === 'ready' ? [{ id, mixId: mix.id }] : []));
  const versions = await chosenVersions(
    db,
    ready.map(({ id }) => id),
  );
  const wanted = await Promise.all(
    ready.flatMap(({ id, mixId }) => {
      const version = versions.get(id);
      if (!version) return [];
      const { lane } = version;
      return measurementKey(mixId, lane).then((key) => ({ trackId: id, mixId, lane, key, version }));
    }),
  );
  const known = await knownOf(db, wanted);
  const checked = await checksOf(db, wanted);
  await orderMeasurements(
    db,
    wanted.filter(({ key }) => !known.has(key)),
  );
  return new Map(
    wanted.map(({ trackId, key, lane, version: { id, name, step } }) => {
      const { summary, status, progress, problem } = known.get(key) ?? WAITING;
      const checking = status === 'waiting' || status === 'measuring' ? progress : null;
      return [
        trackId,
        {
          ...{ versionId: id, versionName: name, step, edges: lane.edges ?? null, summary, checking, problem },
          encodes: checkedEncodes(checked.filter((each) => each.key === key)),
        },
      ];
    }),
  );
}

interface KnownRow {
  key: string;
  status: string;
  progress: number;
  problem: string | null;
  summary: MasterSummary | null;
}

const WAITING: Omit<KnownRow, 'key'> = { status: 'waiting', progress: 0, problem: null, summary: null };

async function knownOf(db: Knex, wanted: readonly { mixId: string; key: string }[]): Promise<Map<string, KnownRow>> {
  const rows = await db('measurements')
    .whereIn(
      ['mix_id', 'key'],
      wanted.map(({ mixId, key }) => [mixId, key]),
    )
    .select<KnownRow[]>('key', 'status', 'progress', 'problem', 'summary');
  return new Map(rows.map((row) => [row.key, { ...row, summary: masterSummarySchema.nullable().parse(row.summary) }]));
}

/** Finished checks of lanes in encodes. */
async function checksOf(
  db: Knex,
  wanted: readonly { mixId: string; key: string }[],
): Promise<(Encode & { key: string; result: EncodeResult | null })[]> {
  return db('encode_checks')
    .whereIn(
      ['mix_id', 'key'],
      wanted.map(({ mixId, key }) => [mixId, key]),
    )
    .where({ status: 'finished' })
    .select('key', 'codec', 'kbps', 'result');
}

/** Queues the measuring of lanes; one that is queued already stays as it is. */
async function orderMeasurements(db: Knex, wanted: { mixId: string; key: string; lane: Lane }[]): Promise<void> {
  if (wanted.length === 0) return;
  await db.transaction(async (trx) => {
    const rows = wanted.map(({ mixId, key, lane }) => ({ mix_id: mixId, key, lane: JSON.stringify(lane) }));
    const added = await trx('measurements')
      .insert(rows)
      .onConflict(['mix_id', 'key'])
      .ignore()
      .returning<{ id: string; mix_id: string }[]>(['id', 'mix_id']);
    for (const { id, mix_id } of added) {
      await enqueue(trx, 'measure', id);
      await forgetOlder(trx, mix_id);
    }
  });
}
