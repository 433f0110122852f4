import type { Knex } from 'knex';

/** What the listening bar of a track offers. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('tracks', (table) => {
    table.jsonb('candidates');
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
