import type { Knex } from 'knex';

/** Checks of whole masters in lossy encodes, with the encodes, and the work of making them. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('encode_checks', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('track_id').notNullable().references('tracks.id').onDelete('CASCADE').index();
    table.uuid('mix_id').notNullable().references('mixes.id').onDelete('CASCADE');
    table.text('key').notNullable();
    table.jsonb('lane').notNullable();
    table.text('codec').notNullable();
    table.integer('kbps').notNullable();
    table.double('limit_dbtp').notNullable();
    table.text('status').notNullable().defaultTo('waiting');
    table.float('progress').notNullable().defaultTo(0);
    table.text('problem');
    table.text('held_because');
    table.jsonb('result');
    table.text('file_hash');
    table.uuid('lease_token');
    table.integer('crashes').notNullable().defaultTo(0);
    table.timestamp('heartbeat_at');
    table.timestamp('waiting_since').notNullable().defaultTo(db.fn.now());
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.unique(['mix_id', 'key', 'codec', 'kbps']);
    table.check("status in ('waiting', 'encoding', 'finished', 'failed')");
    table.check("status <> 'finished' or (result is not null and file_hash is not null)");
  });
  await db.raw(
    "create index encode_checks_unfinished on encode_checks (status) where status in ('waiting', 'encoding')",
  );
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
