import type { Knex } from 'knex';

/** Impulse responses that an account has uploaded for its rooms. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('impulse_responses', (table) => {
    table.uuid('id').primary().defaultTo(db.raw('gen_random_uuid()'));
    table.uuid('account_id').notNullable().references('id').inTable('accounts').onDelete('CASCADE').index();
    table.text('name').notNullable();
    table.text('file_hash').notNullable();
    table.integer('channels').notNullable();
    table.double('seconds').notNullable();
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(db.fn.now());
    table.check('channels IN (1, 2)');
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
