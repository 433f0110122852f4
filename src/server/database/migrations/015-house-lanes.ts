import type { Knex } from 'knex';

/** House lanes of an account, and what it did to first drafts. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('house_lanes', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('account_id').notNullable().references('accounts.id').onDelete('CASCADE');
    table.text('name').notNullable();
    table.jsonb('house_lane').notNullable();
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.unique(['account_id', 'name']);
  });
  await db.schema.createTable('taken_drafts', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('account_id').notNullable().references('accounts.id').onDelete('CASCADE');
    table.jsonb('draft').notNullable();
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.index(['account_id', 'created_at']);
  });
  await db.schema.alterTable('accounts', (table) => {
    // Drafts lean towards what is usually done to them.
    table.boolean('drafts_lean').notNullable().defaultTo(false);
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
