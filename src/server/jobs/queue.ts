import type { Knex } from 'knex';

export type JobName = 'intake' | 'deliver' | 'measure' | 'reference' | 'encode' | 'image' | 'listening';

/** Of two jobs that wait, the one with the lower figure goes first: measuring is for nobody who waits. */
const PRIORITY: Record<JobName, number> = {
  intake: 0,
  deliver: 0,
  encode: 0,
  image: 0,
  listening: 0,
  reference: 5,
  measure: 10,
};

/** A job that fails without a word of ours is tried again this often: what a row needs is decided by its lease. */
const MAX_ATTEMPTS = 25;

/**
 * Puts a job into the queue within a transaction: the job exists exactly when the row it is about does. A row has one job at
 * most; a second call replaces the first. The schema of the queue is graphile-worker's own.
 */
export async function enqueue(trx: Knex, name: JobName, id: string, delaySeconds = 0): Promise<void> {
  await trx.raw(
    `select graphile_worker.add_job(?, payload := ?::json, max_attempts := ?, job_key := ?, priority := ?,
       run_at := now() + make_interval(secs => ?))`,
    [name, JSON.stringify({ id }), MAX_ATTEMPTS, jobKey(name, id), PRIORITY[name], delaySeconds],
  );
}

function jobKey(name: JobName, id: string): string {
  return `${name}:${id}`;
}
