import type { Knex } from 'knex';

/** What was measured of lanes over whole mixes, kept under the hash of what decides it, and the work of measuring it. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('measurements', (table) => {
    table.uuid('id').primary().defaultTo(db.raw('gen_random_uuid()'));
    table.uuid('mix_id').notNullable().references('id').inTable('mixes').onDelete('CASCADE');
    table.text('key').notNullable();
    table.jsonb('lane').notNullable();
    table
      .text('status')
      .notNullable()
      .defaultTo('waiting')
      .checkIn(['waiting', 'measuring', 'finished', 'failed'], 'measurements_status_known');
    table.float('progress').notNullable().defaultTo(0);
    table.text('problem');
    table.timestamp('heartbeat_at', { useTz: true });
    table.uuid('lease_token');
    table.integer('crashes').notNullable().defaultTo(0);
    table.text('held_because');
    table.timestamp('waiting_since', { useTz: true }).notNullable().defaultTo(db.fn.now());
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(db.fn.now());
    table.jsonb('summary');
    // Null where it is too large to keep.
    table.binary('data');
    table.unique(['mix_id', 'key']);
  });
  await db.raw(
    `create index measurements_unfinished on measurements (status) where status in ('waiting', 'measuring')`,
  );
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
