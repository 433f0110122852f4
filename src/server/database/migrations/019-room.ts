import type { Knex } from 'knex';

/** What takes room, so that it is looked up and not looked for: sizes of stored files, uploads and work under way. */
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
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
