import type { Knex } from 'knex';

/**
 * What keeps an installation safe: the identifier it shares with its audio store, sessions that can be ended, leases with a
 * token, workers that report, throttles, and indexes on every column that refers to another table.
 */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('installation', (table) => {
    table.uuid('id').primary().defaultTo(db.raw('gen_random_uuid()'));
    // One row, ever.
    table.boolean('only').notNullable().defaultTo(true).unique().checkIn(['true'], 'installation_is_one');
    table.boolean('demo_removed').notNullable().defaultTo(false);
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(db.fn.now());
  });
  await db('installation').insert({});
  await db.schema.createTable('sessions', (table) => {
    table.uuid('id').primary().defaultTo(db.raw('gen_random_uuid()'));
    table.uuid('account_id').notNullable().references('id').inTable('accounts').onDelete('CASCADE').index();
    table.text('agent').notNullable().defaultTo('');
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(db.fn.now());
  });
  await db.schema.createTable('workers', (table) => {
    table.uuid('id').primary();
    table.timestamp('seen_at', { useTz: true }).notNullable().defaultTo(db.fn.now());
  });
  // The layout that rate-limiter-flexible expects.
  await db.schema.createTable('throttles', (table) => {
    table.string('key', 255).primary();
    table.integer('points').notNullable().defaultTo(0);
    table.bigInteger('expire');
  });
  for (const name of ['mixes', 'deliveries'] as const) {
    await db.schema.alterTable(name, (table) => {
      // Who works on the row now: each claim has a new token, and every write of a job names its own.
      table.uuid('lease_token');
      // How often the worker died while it worked on the row; failures of the work itself end it at once.
      table.integer('crashes').notNullable().defaultTo(0);
      // Why the work waits although nothing is wrong with it, as a sentence; null while it simply waits its turn.
      table.text('held_because');
      table.timestamp('waiting_since', { useTz: true }).notNullable().defaultTo(db.fn.now());
      table.dropColumn('attempts');
    });
    await db.raw(
      `create index ${name}_unfinished on ${name} (status) where status in ('waiting', 'analysing', 'rendering')`,
    );
  }
  await db.schema.alterTable('deliveries', (table) => {
    table.index('mix_id');
    table.index('version_id');
  });
  await db.schema.alterTable('tracks', (table) => table.index('mix_id'));
  await db.schema.alterTable('releases', (table) => {
    table.index(['account_id', 'created_at', 'id']);
    table.dropIndex('account_id');
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
