import type { Knex } from 'knex';

/** What is looked up and not looked for: room that is taken, what deliveries came to, texts without accents; notes that can be restored. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('stored_files', (table) => {
    table.text('hash').primary();
    table.bigInteger('bytes').notNullable();
    table.check('bytes >= 0');
  });
  await db.schema.createTable('uploads', (table) => {
    table.text('id').primary();
    table.uuid('account_id').notNullable().references('accounts.id').onDelete('CASCADE').index();
    // As it was announced.
    table.bigInteger('bytes').notNullable();
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.check('bytes > 0');
  });
  for (const name of ['deliveries', 'images', 'listening_links', 'encode_checks'])
    await db.schema.alterTable(name, (table) => {
      // What its file is expected to take, until there is one.
      table.bigInteger('reserved_bytes').notNullable().defaultTo(0);
    });
  await db.schema.alterTable('notes', (table) => {
    table.timestamp('removed_at');
  });
  // Beside the receipt, which is long: a list looks at thousands of these.
  await db.raw(`alter table deliveries
    add column standing text generated always as (receipt -> 'verdict' ->> 'standing') stored`);
  await db.raw(`create index deliveries_met on deliveries (track_id) where status = 'finished' and standing = 'meets'`);
  // "kohler" finds "Köhler".
  await db.raw('create extension if not exists unaccent');
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
