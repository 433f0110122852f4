import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { enqueue, type JobName } from './queue';

/** Rows that jobs work on: which table, and its words for waiting and for being worked on. */
export const WORK = {
  intake: { table: 'mixes', working: 'analysing', failed: 'refused', reason: 'refusal' },
  deliver: { table: 'deliveries', working: 'rendering', failed: 'failed', reason: 'problem' },
} as const satisfies Record<JobName, { table: string; working: string; failed: string; reason: string }>;

const HEARTBEAT_SECONDS = 1;
/** A row whose worker has been silent for this long is taken to have lost it. */
export const STALE_SECONDS = 15;
export const MAX_ATTEMPTS = 3;

const STOPPED = `The work on this was interrupted ${MAX_ATTEMPTS} times, last by a crash. Start it once more; if it happens again, look at the server's log.`;

/** Takes a waiting row for this worker; false when it is gone, done, cancelled or somebody else's. */
export async function claim(db: Knex, job: JobName, id: string): Promise<boolean> {
  const { table, working } = WORK[job];
  const claimed = await db(table)
    .where({ id, status: 'waiting' })
    .update({ status: working, progress: 0, attempts: db.raw('attempts + 1'), heartbeat_at: db.fn.now() });
  return claimed === 1;
}

/** Writes progress each second while the job runs, and aborts it when its row is gone or no longer being worked on. */
export function keepLease(
  db: Knex,
  job: JobName,
  id: string,
  logger: Logger,
): { progress(share: number): void; signal: AbortSignal; end(): void } {
  const { table, working } = WORK[job];
  const controller = new AbortController();
  let share = 0;
  const beat = async () => {
    try {
      const kept = await db(table)
        .where({ id, status: working })
        .update({ progress: share, heartbeat_at: db.fn.now() });
      if (kept === 0) controller.abort();
    } catch (error) {
      // The database may be restarting; the lease lasts longer than that takes.
      logger.warn({ err: error, job, id }, 'heartbeat not written');
    }
  };
  const timer = setInterval(() => void beat(), HEARTBEAT_SECONDS * 1000);
  return { progress: (value) => (share = value), signal: controller.signal, end: () => clearInterval(timer) };
}

/** Puts work whose worker died back into the queue; after too many tries it is marked as failed. */
export async function recoverAbandoned(db: Knex, logger: Logger): Promise<void> {
  for (const job of Object.keys(WORK) as JobName[]) {
    const { table, working, failed, reason } = WORK[job];
    await db.transaction(async (trx) => {
      const abandoned = await trx(table)
        .where({ status: working })
        .whereRaw(`heartbeat_at < now() - interval '${STALE_SECONDS} seconds'`)
        .forUpdate()
        .skipLocked()
        .select<{ id: string; attempts: number }[]>('id', 'attempts');
      for (const { id, attempts } of abandoned) {
        logger.warn({ job, id, attempts }, 'taking up abandoned work');
        if (attempts >= MAX_ATTEMPTS) {
          await trx(table)
            .where({ id })
            .update({ status: failed, [reason]: STOPPED });
        } else {
          await trx(table).where({ id }).update({ status: 'waiting', progress: 0 });
          await enqueue(trx, job, id);
        }
      }
    });
  }
}
