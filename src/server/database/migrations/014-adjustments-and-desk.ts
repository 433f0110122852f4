import type { Knex } from 'knex';

/** Levels and drives of a version that differ for a destination, and what the receiving desk answered. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('adjustments', (table) => {
    table.uuid('version_id').notNullable().references('versions.id').onDelete('CASCADE');
    table.uuid('destination_id').notNullable().references('destinations.id').onDelete('CASCADE').index();
    table.double('level_db').notNullable().defaultTo(0);
    table.double('drive_db').notNullable().defaultTo(0);
    table.primary(['version_id', 'destination_id']);
  });
  await db.schema.alterTable('deliveries', (table) => {
    table.double('drive_db').notNullable().defaultTo(0);
    table.jsonb('desk_answer');
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
