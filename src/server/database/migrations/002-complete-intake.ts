import type { Knex } from 'knex';

/** Mixes whose findings have an older form are measured again. */
export async function up(db: Knex): Promise<void> {
  const { rows } = await db.raw<{ rows: { id: string }[] }>(
    `update mixes set status = 'waiting', progress = 0, attempts = 0, findings = null
     where status = 'ready' and (findings ->> 'schema')::int < 2 returning id`,
  );
  for (const { id } of rows) {
    await db.raw("select graphile_worker.add_job('intake', payload := ?::json, max_attempts := 1)", [
      JSON.stringify({ id }),
    ]);
  }
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
