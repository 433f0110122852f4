import type { Knex } from 'knex';

export type JobName = 'intake' | 'deliver';

/**
 * Puts a job into the queue within a transaction: the job exists exactly when the row it is about does. The schema of the
 * queue is graphile-worker's own.
 */
export async function enqueue(trx: Knex, name: JobName, id: string): Promise<void> {
  await trx.raw('select graphile_worker.add_job(?, payload := ?::json, max_attempts := 1)', [
    name,
    JSON.stringify({ id }),
  ]);
}
