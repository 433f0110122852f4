import type { Knex } from 'knex';

/** A worker that has not reported for this long is gone. */
const GONE_SECONDS = 15;

/** Says that a worker is there; forgets those that have been gone for long. */
export async function reportWorker(db: Knex, id: string): Promise<void> {
  await db('workers').insert({ id, seen_at: db.fn.now() }).onConflict('id').merge();
  await db('workers').whereRaw("seen_at < now() - interval '1 hour'").delete();
}

/** Whether any worker takes jobs now. */
export async function anyWorker(db: Knex): Promise<boolean> {
  const row = await db('workers')
    .whereRaw(`seen_at > now() - interval '${GONE_SECONDS} seconds'`)
    .first<{ id: string } | undefined>('id');
  return row !== undefined;
}
