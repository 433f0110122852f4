import type { Knex } from 'knex';

/** Links on which others listen, the files they hear, and what they answer. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('listening_links', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('release_id').notNullable().references('releases.id').onDelete('CASCADE').index();
    // Of the address; the address itself is kept sealed, so that it can be copied again.
    table.text('token_hash').notNullable().unique();
    table.text('sealed_token').notNullable();
    table.text('recipient').notNullable();
    table.text('passphrase_hash');
    table.timestamp('expires_at');
    table.timestamp('revoked_at');
    table.boolean('download').notNullable().defaultTo(false);
    table.boolean('lossless').notNullable().defaultTo(false);
    table.integer('visits').notNullable().defaultTo(0);
    table.timestamp('last_visit_at');
    // What is to be rendered: tracks, versions and joints as they were decided on.
    table.jsonb('programme').notNullable();
    // What can be heard: null until it was rendered once.
    table.jsonb('heard');
    table.text('status').notNullable().defaultTo('waiting');
    table.float('progress').notNullable().defaultTo(0);
    table.text('problem');
    table.text('held_because');
    table.uuid('lease_token');
    table.integer('crashes').notNullable().defaultTo(0);
    table.timestamp('heartbeat_at');
    table.timestamp('waiting_since').notNullable().defaultTo(db.fn.now());
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.check("status in ('waiting', 'rendering', 'finished', 'failed')");
    table.check("status <> 'finished' or heard is not null");
  });
  await db.raw(
    "create index listening_links_unfinished on listening_links (status) where status in ('waiting', 'rendering')",
  );
  await db.schema.createTable('listening_files', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('release_id').notNullable().references('releases.id').onDelete('CASCADE').index();
    table.uuid('link_id').notNullable().references('listening_links.id').onDelete('CASCADE');
    table.text('source').notNullable();
    table.text('codec').notNullable();
    // A track of its own, counted from 0; −1 for the whole programme.
    table.integer('place').notNullable();
    table.text('file_hash').notNullable();
    table.unique(['link_id', 'source', 'codec', 'place']);
    table.check("source in ('mix', 'master', 'other')");
    table.check("codec in ('opus', 'aac', 'flac')");
  });
  await db.schema.createTable('approvals', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('release_id').notNullable().references('releases.id').onDelete('CASCADE').index();
    // What was said stays when the link is deleted.
    table.uuid('link_id').references('listening_links.id').onDelete('SET NULL');
    table.uuid('track_id').notNullable().references('tracks.id').onDelete('CASCADE').index();
    // What was approved: a version at a step, through a mix.
    table.uuid('mix_id').notNullable().references('mixes.id').onDelete('CASCADE').index();
    table.uuid('version_id').notNullable().references('versions.id').onDelete('CASCADE').index();
    table.integer('step').notNullable();
    table.text('author').notNullable();
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.timestamp('seen_at');
    table.unique(['link_id', 'track_id']);
  });
  await db.schema.createTable('preference_tests', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('release_id').notNullable().references('releases.id').onDelete('CASCADE').index();
    table.uuid('link_id').references('listening_links.id').onDelete('SET NULL').index();
    table.uuid('track_id').notNullable().references('tracks.id').onDelete('CASCADE').index();
    table.text('author').notNullable();
    table.jsonb('sources').notNullable();
    table.jsonb('names').notNullable();
    // For each trial which of the two A is; which of them was preferred.
    table.jsonb('assignment').notNullable();
    table.jsonb('answers').notNullable().defaultTo('[]');
    table.timestamp('finished_at');
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.timestamp('seen_at');
  });
  await db.schema.alterTable('notes', (table) => {
    // Null: the engineer's own.
    table.text('author');
    table.uuid('link_id').references('listening_links.id').onDelete('SET NULL').index();
    table.timestamp('seen_at');
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
