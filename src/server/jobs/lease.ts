import { randomUUID } from 'node:crypto';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { getConfig } from '../config';
import { enqueue, type JobName } from './queue';

/** Rows that jobs work on: which table, and its words for waiting and for being used. */
const WORK = {
  intake: { table: 'mixes', working: 'analysing', failed: 'refused', reason: 'refusal' },
  deliver: { table: 'deliveries', working: 'rendering', failed: 'failed', reason: 'problem' },
  measure: { table: 'measurements', working: 'measuring', failed: 'failed', reason: 'problem' },
  encode: { table: 'encode_checks', working: 'encoding', failed: 'failed', reason: 'problem' },
  image: { table: 'images', working: 'rendering', failed: 'failed', reason: 'problem' },
  listening: { table: 'listening_links', working: 'rendering', failed: 'failed', reason: 'problem' },
  reference: { table: 'reference_tracks', working: 'measuring', failed: 'refused', reason: 'refusal' },
} as const satisfies Record<JobName, { table: string; working: string; failed: string; reason: string }>;

const HEARTBEAT_SECONDS = 1;
/** Work that crashed the worker this often is the cause; a crash for another reason rarely repeats. */
export const MAX_CRASHES = 8;

const POISON = `The server crashed ${MAX_CRASHES} times while working on this. Start it again; if it happens again, look at the server's log.`;

/** A claim on a row: every write of the job names its token, and writes nothing once another claim has been made. */
export interface Claim {
  job: JobName;
  id: string;
  token: string;
}

/** Claims that this process holds. */
const HELD = new Set<Claim>();
/** This process stops: what it gives back must not come to itself again. */
let stopping = false;

/**
 * Takes a waiting row for this worker; null when it is gone, done, cancelled or another worker's. Throws in a worker that
 * stops, so that the queue keeps the job for another.
 */
export async function claim(db: Knex, job: JobName, id: string): Promise<Claim | null> {
  if (stopping) throw new Error('This worker is stopping.');
  const { table, working } = WORK[job];
  const token = randomUUID();
  const claimed = await db(table)
    .where({ id, status: 'waiting' })
    .update({ status: working, progress: 0, lease_token: token, held_because: null, heartbeat_at: db.fn.now() });
  return claimed === 1 ? { job, id, token } : null;
}

/** The row of a claim, as long as no other worker has claimed it. */
export function claimed(db: Knex, { job, id, token }: Claim): Knex.QueryBuilder {
  const { table, working } = WORK[job];
  return db(table).where({ id, status: working, lease_token: token });
}

/** Writes progress each second while the job runs, and aborts it when its row is gone or no longer its own. */
export function keepLease(
  db: Knex,
  held: Claim,
  logger: Logger,
): { progress(share: number): void; signal: AbortSignal; end(): void } {
  const controller = new AbortController();
  let share = 0;
  const beat = async () => {
    try {
      const kept = await claimed(db, held).update({ progress: share, heartbeat_at: db.fn.now() });
      if (kept === 0) controller.abort();
    } catch (error) {
      // The database may be restarting; the lease lasts longer than that takes.
      logger.warn({ err: error, ...held }, 'heartbeat not written');
    }
  };
  const timer = setInterval(() => void beat(), HEARTBEAT_SECONDS * 1000);
  HELD.add(held);
  const end = () => {
    clearInterval(timer);
    HELD.delete(held);
  };
  return { progress: (value) => (share = value), signal: controller.signal, end };
}

/** Gives the work of this process back to the queue, for a worker that stops: another can begin at once. Claims end here. */
export async function releaseAll(db: Knex): Promise<void> {
  stopping = true;
  for (const held of HELD) {
    await db.transaction(async (trx) => {
      const waiting = { status: 'waiting', progress: 0, lease_token: null, waiting_since: trx.fn.now() };
      if ((await claimed(trx, held).update(waiting)) > 0) await enqueue(trx, held.job, held.id);
    });
  }
}

/**
 * Ends a claim without a result: the work waits for something that is no fault of the file, and is tried again later.
 */
export async function holdBack(db: Knex, held: Claim, because: string): Promise<void> {
  await db.transaction(async (trx) => {
    const waiting = { status: 'waiting', progress: 0, held_because: because, waiting_since: trx.fn.now() };
    if ((await claimed(trx, held).update(waiting)) > 0) await enqueue(trx, held.job, held.id, getConfig().heldSeconds);
  });
}

/**
 * Puts work back into the queue whose worker died: while it used a row, or between taking the job and claiming its row,
 * or because the queue lost it. Jobs that no worker will finish are removed.
 */
export async function recoverAbandoned(db: Knex, logger: Logger): Promise<void> {
  for (const job of Object.keys(WORK) as JobName[]) {
    const { table, working, failed, reason } = WORK[job];
    await db.transaction(async (trx) => {
      const abandoned = await trx(table)
        .where({ status: working })
        .whereRaw(`(heartbeat_at is null or heartbeat_at < now() - interval '${getConfig().leaseSeconds} seconds')`)
        .forUpdate()
        .skipLocked()
        .select<{ id: string; crashes: number }[]>('id', 'crashes');
      for (const { id, crashes } of abandoned) {
        logger.warn({ job, id, crashes: crashes + 1 }, 'taking up abandoned work');
        if (crashes + 1 >= MAX_CRASHES) {
          await trx(table)
            .where({ id })
            .update({ status: failed, crashes: crashes + 1, lease_token: null, [reason]: POISON });
        } else {
          const again = { status: 'waiting', progress: 0, crashes: crashes + 1, lease_token: null };
          await trx(table)
            .where({ id })
            .update({ ...again, waiting_since: trx.fn.now() });
          await enqueue(trx, job, id);
        }
      }
      // A row that waits, but whose job is gone, used up, or has been in the hands of a worker that did not claim the
      // row.
      const lost = await trx(`${table} as x`)
        .where('x.status', 'waiting')
        .whereRaw(`x.waiting_since < now() - interval '${getConfig().leaseSeconds} seconds'`)
        .whereRaw(
          `not exists (select from graphile_worker.jobs j where j.key = ? || x.id::text and j.attempts < j.max_attempts
             and (j.locked_at is null or j.locked_at > now() - interval '${getConfig().leaseSeconds} seconds'))`,
          [`${job}:`],
        )
        .forUpdate('x')
        .skipLocked()
        .select<{ id: string }[]>('x.id');
      for (const { id } of lost) {
        logger.warn({ job, id }, 'queueing work that its job had lost');
        await enqueue(trx, job, id);
      }
    });
  }
  await removeDeadJobs(db, logger);
}

/** Rows whose work waits or is being done, by their identifiers. */
export async function unfinishedWork(db: Knex): Promise<Set<string>> {
  const ids = new Set<string>();
  for (const { table, working } of Object.values(WORK))
    for (const id of await db(table).whereIn('status', ['waiting', working]).pluck<string[]>('id')) ids.add(id);
  return ids;
}

/** Removes jobs that were replaced or whose work ended while their worker was away. */
async function removeDeadJobs(db: Knex, logger: Logger): Promise<void> {
  const query = db('graphile_worker._private_jobs as j').where((dead) => {
    void dead
      .whereRaw(`j.locked_at < now() - interval '${getConfig().leaseSeconds} seconds'`)
      .orWhereRaw('j.attempts >= j.max_attempts');
  });
  for (const [job, { table, working }] of Object.entries(WORK))
    void query.whereNotExists(
      db(`${table} as x`)
        .select(db.raw('1'))
        .whereIn('x.status', ['waiting', working])
        .whereRaw('j.key = ? || x.id::text', [`${job}:`]),
    );
  const jobs = await query.delete();
  if (jobs > 0) logger.warn({ jobs }, 'removed jobs that nobody works on');
}
