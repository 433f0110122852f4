import type { Knex } from 'knex';

/** Changes of handles that somebody proposes, and links that allow them. */
export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable('listening_links', (table) => {
    table.boolean('handles').notNullable().defaultTo(false);
  });
  await db.schema.createTable('proposals', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('track_id').notNullable().references('tracks.id').onDelete('CASCADE').index();
    table.uuid('version_id').notNullable().references('versions.id').onDelete('CASCADE').index();
    // Null: whoever is signed in, or a link that was deleted.
    table.uuid('link_id').references('listening_links.id').onDelete('SET NULL').index();
    // Step of the version that it was heard on.
    table.integer('step').notNullable();
    table.jsonb('positions').notNullable();
    // What it changes, in words, as it was when it was heard.
    table.text('changes').notNullable();
    table.text('author').notNullable();
    table.timestamp('made_at').notNullable();
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.text('decision');
    table.timestamp('decided_at');
    table.timestamp('seen_at');
    // What is sent twice, because an answer was lost, is there once.
    table.unique(['version_id', 'author', 'made_at']);
    table.check("decision in ('taken', 'refused')");
  });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
