import type { Knex } from 'knex';
import { getConfig } from '../config';

/** Says that a worker is there; forgets those that have been gone for long. */
export async function reportWorker(db: Knex, id: string): Promise<void> {
  await db('workers').insert({ id, seen_at: db.fn.now() }).onConflict('id').merge();
  await db('workers').whereRaw("seen_at < now() - interval '1 hour'").delete();
}

/** Identifiers of the workers that take jobs now. */
export async function workersThere(db: Knex): Promise<string[]> {
  return db('workers')
    .whereRaw(`seen_at > now() - interval '${getConfig().leaseSeconds} seconds'`)
    .pluck<string[]>('id');
}
