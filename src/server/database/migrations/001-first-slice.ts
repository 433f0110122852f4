import type { Knex } from 'knex';

export async function up(db: Knex): Promise<void> {
  const id = (table: Knex.CreateTableBuilder) => table.uuid('id').primary().defaultTo(db.raw('gen_random_uuid()'));
  const created = (table: Knex.CreateTableBuilder) =>
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(db.fn.now());
  const parent = (table: Knex.CreateTableBuilder, column: string, other: string) =>
    table.uuid(column).notNullable().references('id').inTable(other).onDelete('CASCADE').index();

  await db.schema.createTable('accounts', (table) => {
    id(table);
    table.text('email').notNullable().unique();
    table.text('name').notNullable();
    table.text('password_hash').notNullable();
    table.boolean('demo').notNullable().defaultTo(false);
    created(table);
  });
  await db.schema.createTable('releases', (table) => {
    id(table);
    parent(table, 'account_id', 'accounts');
    table.text('title').notNullable();
    table.text('artist').notNullable().defaultTo('');
    created(table);
    table.check('length(trim(title)) > 0', [], 'releases_title_given');
  });
  await db.schema.createTable('tracks', (table) => {
    id(table);
    parent(table, 'release_id', 'releases');
    table.integer('position').notNullable();
    table.text('title').notNullable();
    created(table);
    table.unique(['release_id', 'position'], { deferrable: 'deferred' });
  });
  await db.schema.createTable('mixes', (table) => {
    id(table);
    parent(table, 'track_id', 'tracks');
    table.integer('number').notNullable();
    table.text('file_name').notNullable();
    table
      .text('status')
      .notNullable()
      .defaultTo('waiting')
      .checkIn(['waiting', 'analysing', 'ready', 'refused'], 'mixes_status_known');
    table.float('progress').notNullable().defaultTo(0);
    table.text('refusal');
    table.integer('attempts').notNullable().defaultTo(0);
    table.timestamp('heartbeat_at', { useTz: true });
    table.jsonb('source').notNullable();
    table.text('original_hash');
    table.text('working_hash');
    table.text('working_format');
    table.integer('sample_rate').notNullable();
    table.bigInteger('frames');
    table.jsonb('findings');
    created(table);
    table.unique(['track_id', 'number']);
    table.check(
      "status <> 'ready' or (working_hash is not null and frames is not null and findings is not null)",
      [],
      'mixes_ready_is_whole',
    );
  });
  await db.schema.createTable('versions', (table) => {
    id(table);
    parent(table, 'track_id', 'tracks');
    table.text('name').notNullable();
    table.integer('current').notNullable().defaultTo(0);
    created(table);
  });
  await db.schema.createTable('edits', (table) => {
    table.uuid('version_id').notNullable().references('id').inTable('versions').onDelete('CASCADE');
    table.integer('sequence').notNullable();
    table.text('label').notNullable();
    table.jsonb('lane').notNullable();
    created(table);
    table.primary(['version_id', 'sequence']);
  });
  await db.schema.createTable('destinations', (table) => {
    id(table);
    parent(table, 'release_id', 'releases');
    table.integer('position').notNullable();
    table.jsonb('settings').notNullable();
    created(table);
  });
  await db.schema.createTable('deliveries', (table) => {
    id(table);
    parent(table, 'track_id', 'tracks');
    table.uuid('mix_id').notNullable().references('id').inTable('mixes');
    table.uuid('version_id').references('id').inTable('versions').onDelete('SET NULL');
    table.jsonb('destination').notNullable();
    table.jsonb('lane').notNullable();
    table.float('level_db').notNullable().defaultTo(0);
    table
      .text('status')
      .notNullable()
      .defaultTo('waiting')
      .checkIn(['waiting', 'rendering', 'finished', 'failed', 'cancelled'], 'deliveries_status_known');
    table.float('progress').notNullable().defaultTo(0);
    table.text('problem');
    table.integer('attempts').notNullable().defaultTo(0);
    table.timestamp('heartbeat_at', { useTz: true });
    table.text('file_hash');
    table.text('file_name');
    table.jsonb('receipt');
    created(table);
    table.timestamp('finished_at', { useTz: true });
    table.check(
      "status <> 'finished' or (file_hash is not null and receipt is not null)",
      [],
      'deliveries_finished_is_whole',
    );
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
