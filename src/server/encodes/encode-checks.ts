import type { Knex } from 'knex';
import type { EncodeCheck, EncodeResult, NewEncodeCheck } from '../../contracts/encode-check';
import { encodeSampleRate, type Codec, type Encode } from '../../core/deliver/encode';
import { parseLane } from '../../core/lane/schema';
import { measurementKey } from '../../engine/measure/kept-measurement';
import type { StoredAudio } from '../http/float-audio';
import { impulsesOf } from '../impulses/impulses';
import { enqueue } from '../jobs/queue';
import { subjectOf } from '../measurements/subject';
import { requireOwn } from '../ownership';
import { notFound, Problem } from '../problem';
import { reserve } from '../store/reserve';
import type { CheckOrder } from './check-master';

/** Checks that are kept of a mix: those that were asked for last. */
const KEPT_OF_A_MIX = 12;

const COLUMNS = ['id', 'codec', 'kbps', 'status', 'progress', 'problem', 'result'] as const;

/** Checks of a version's lane as it is saved. Throws a Problem: 404 for another's, 409 while the mix is not ready. */
export async function listEncodeChecks(db: Knex, accountId: string, versionId: string): Promise<EncodeCheck[]> {
  const { mixId, lane } = await subjectOf(db, accountId, versionId);
  return db('encode_checks')
    .where({ mix_id: mixId, key: await measurementKey(mixId, lane) })
    .orderBy('created_at')
    .select<EncodeCheck[]>(...COLUMNS);
}

/** Checks of any lane with a mix. */
export async function encodesOfMix(db: Knex, mixId: string): Promise<EncodeCheck[]> {
  return db('encode_checks')
    .where({ mix_id: mixId })
    .orderBy('created_at')
    .select<EncodeCheck[]>(...COLUMNS);
}

/** Has a version's lane checked in an encode; one that failed is tried again. Throws as {@link listEncodeChecks} does. */
export async function startEncodeCheck(
  db: Knex,
  accountId: string,
  versionId: string,
  { codec, kbps, limitDbtp }: NewEncodeCheck,
): Promise<{ id: string }> {
  return db.transaction(async (trx) => {
    const { mixId, trackId, lane } = await subjectOf(trx, accountId, versionId);
    const key = await measurementKey(mixId, lane);
    const waiting = { status: 'waiting', progress: 0, problem: null, result: null, file_hash: null, crashes: 0 };
    const reserved = await reserve(trx, accountId, [mixId], () => kbps * 125);
    const [row] = await trx('encode_checks')
      .insert({
        reserved_bytes: reserved,
        ...{ track_id: trackId, mix_id: mixId, key, lane: JSON.stringify(lane), codec, kbps },
        limit_dbtp: limitDbtp,
      })
      .onConflict(['mix_id', 'key', 'codec', 'kbps'])
      .merge({ limit_dbtp: limitDbtp })
      .returning<{ id: string; status: string; result: EncodeResult | null }[]>(['id', 'status', 'result']);
    const again = row.status === 'failed' || (row.result && row.result.limitDbtp !== limitDbtp);
    if (again)
      await trx('encode_checks')
        .where({ id: row.id })
        .update({ ...waiting, waiting_since: trx.fn.now() });
    if (again || row.status === 'waiting') await enqueue(trx, 'encode', row.id);
    const newest = trx('encode_checks')
      .where({ mix_id: mixId })
      .orderBy('created_at', 'desc')
      .limit(KEPT_OF_A_MIX)
      .select('id');
    await trx('encode_checks').where({ mix_id: mixId }).whereNotIn('id', newest).delete();
    return { id: row.id };
  });
}

interface OrderRow extends Encode {
  limitDbtp: number;
  lane: unknown;
  workingHash: string;
  sampleRate: number;
  frames: string;
  accountId: string;
}

/** What a worker needs for a check; undefined when it is gone. */
export async function checkOrder(db: Knex, id: string): Promise<CheckOrder | undefined> {
  const row = await db('encode_checks as x')
    .join('mixes as m', 'm.id', 'x.mix_id')
    .join('tracks as t', 't.id', 'x.track_id')
    .join('releases as r', 'r.id', 't.release_id')
    .where('x.id', id)
    .first<OrderRow | undefined>(
      ...['x.codec', 'x.kbps', 'x.limit_dbtp as limitDbtp', 'x.lane', 'm.working_hash as workingHash'],
      ...['m.sample_rate as sampleRate', 'm.frames', 'r.account_id as accountId'],
    );
  if (!row) return undefined;
  const { codec, kbps, limitDbtp, workingHash, sampleRate } = row;
  const lane = parseLane(row.lane);
  return {
    encode: { codec, kbps },
    ...{ limitDbtp, lane, workingHash, sampleRate, frames: Number(row.frames) },
    impulses: await impulsesOf(db, row.accountId, lane),
  };
}

/** The encode as it is heard, moved to where the master is. Throws a Problem: 404 for another's, 409 before it is made. */
export async function encodeAudio(db: Knex, accountId: string, id: string): Promise<StoredAudio> {
  const columns = ['file_hash', 'result', 'codec'] as const;
  const row = await requireOwn<{ file_hash: string | null; result: EncodeResult | null; codec: Codec }>(
    ...([db, 'encode_checks', accountId, id, columns] as const),
  );
  if (!row.file_hash || !row.result) throw new Problem(409, 'This encode is not made yet. Wait until it is checked.');
  const { frames, sampleRate, delayFrames } = row.result;
  return {
    ...{ hash: row.file_hash, frames, sampleRate, accepts: 'lossy' },
    lateFrames: delayFrames,
    storedRate: encodeSampleRate(row.codec, sampleRate),
  };
}

/** Removes a check; its encode is removed with the next sweep. */
export async function removeEncodeCheck(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'encode_checks', accountId, id, ['id'], { lock: true });
    const removed = await trx('encode_checks').where({ id }).delete();
    if (removed === 0) throw notFound('encode');
  });
}
