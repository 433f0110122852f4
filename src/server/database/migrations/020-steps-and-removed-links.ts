import type { Knex } from 'knex';

/** At which step of its version a level or drive for a destination was set, null where that was not kept; links that can be restored. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('adjustments', (table) => {
    table.integer('step');
  });
  await db.schema.alterTable('listening_links', (table) => {
    table.timestamp('removed_at');
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
