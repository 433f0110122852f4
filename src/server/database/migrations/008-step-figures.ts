import type { Knex } from 'knex';

/** What was measured of the master after a step of a history, and through which mix. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('edits', (table) => {
    table.jsonb('figures');
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
