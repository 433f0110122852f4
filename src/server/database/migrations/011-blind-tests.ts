import type { Knex } from 'knex';

/** Blind tests of a track, and the sounds that are compared in them. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('blind_tests', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('track_id').notNullable().references('tracks.id').onDelete('CASCADE').index();
    table.text('kind').notNullable();
    table.jsonb('names').notNullable();
    table.integer('trials').notNullable();
    table.double('start_seconds').notNullable();
    table.integer('sample_rate').notNullable();
    table.integer('frames').notNullable();
    table.text('status').notNullable().defaultTo('gathering');
    table.jsonb('assignment');
    table.jsonb('answers').notNullable().defaultTo('[]');
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.check("kind in ('tell', 'grade')");
    table.check("status in ('gathering', 'running', 'finished')");
    table.check("status = 'gathering' or assignment is not null");
  });
  await db.schema.createTable('blind_test_sounds', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('track_id').notNullable().references('tracks.id').onDelete('CASCADE').index();
    table.uuid('test_id').notNullable().references('blind_tests.id').onDelete('CASCADE');
    table.integer('position').notNullable();
    table.text('file_hash').notNullable();
    table.unique(['test_id', 'position']);
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
