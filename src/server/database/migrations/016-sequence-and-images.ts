import type { Knex } from 'knex';

/** How tracks follow each other, which version of each is chosen, and images of whole releases with the work of making them. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('tracks', (table) => {
    // Null: the usual gap.
    table.jsonb('joint');
    // Null: the first one.
    table.uuid('chosen_version').references('versions.id').onDelete('SET NULL').index();
  });
  await db.schema.createTable('images', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('release_id').notNullable().references('releases.id').onDelete('CASCADE').index();
    table.jsonb('programme').notNullable();
    table.text('file_name').notNullable();
    table.text('status').notNullable().defaultTo('waiting');
    table.float('progress').notNullable().defaultTo(0);
    table.text('problem');
    table.text('held_because');
    table.jsonb('receipt');
    table.text('file_hash');
    table.uuid('lease_token');
    table.integer('crashes').notNullable().defaultTo(0);
    table.timestamp('heartbeat_at');
    table.timestamp('waiting_since').notNullable().defaultTo(db.fn.now());
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.check("status in ('waiting', 'rendering', 'finished', 'failed')");
    table.check("status <> 'finished' or (receipt is not null and file_hash is not null)");
  });
  await db.raw("create index images_unfinished on images (status) where status in ('waiting', 'rendering')");
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
