import type { Knex } from 'knex';

/** What the listening bar of a track offers, and the notes on its programme. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('tracks', (table) => {
    table.jsonb('candidates');
  });
  await db.schema.createTable('notes', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('track_id').notNullable().references('tracks.id').onDelete('CASCADE').index();
    table.text('kind').notNullable();
    table.double('start_seconds').notNullable();
    table.double('end_seconds');
    table.text('text').notNullable();
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.check("kind in ('fault', 'wish', 'question', 'done', 'loop')");
    table.check('start_seconds >= 0 and (end_seconds is null or end_seconds > start_seconds)');
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
