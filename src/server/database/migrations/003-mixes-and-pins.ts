import type { Knex } from 'knex';

/** Tracks with several mixes, one of which is worked on, and pins on the controls of a version. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('mixes', (table) => {
    table.jsonb('lined_up');
  });
  await db.schema.alterTable('tracks', (table) => {
    // Null: the newest that is ready.
    table.uuid('mix_id').references('id').inTable('mixes').onDelete('SET NULL');
  });
  await db.schema.alterTable('versions', (table) => {
    table.jsonb('pins').notNullable().defaultTo('[]');
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
