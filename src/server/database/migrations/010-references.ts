import type { Knex } from 'knex';

/** References of an account: files that masters are compared with and that are never delivered. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('reference_tracks', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('account_id').notNullable().references('accounts.id').onDelete('CASCADE').index();
    table.text('title').notNullable();
    table.text('file_name').notNullable();
    table.text('file_hash').notNullable();
    table.jsonb('source').notNullable();
    table.text('status').notNullable().defaultTo('waiting');
    table.float('progress').notNullable().defaultTo(0);
    table.text('refusal');
    table.text('held_because');
    table.jsonb('report');
    table.uuid('lease_token');
    table.integer('crashes').notNullable().defaultTo(0);
    table.timestamp('heartbeat_at');
    table.timestamp('waiting_since').notNullable().defaultTo(db.fn.now());
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.timestamp('removed_at');
    table.check("status in ('waiting', 'measuring', 'ready', 'refused')");
    table.check("status <> 'ready' or report is not null");
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
