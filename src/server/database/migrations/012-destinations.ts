import type { Knex } from 'knex';
import { fillShelf } from '../../destinations/shelf';

/** A shelf of destinations for each account, what a release took from it, and cover pictures. */
export async function up(db: Knex): Promise<void> {
  await db.schema.createTable('shelf_destinations', (table) => {
    table.uuid('id').primary().defaultTo(db.fn.uuid());
    table.uuid('account_id').notNullable().references('accounts.id').onDelete('CASCADE').index();
    table.integer('position').notNullable();
    table.boolean('starts').notNullable();
    table.text('name').notNullable();
    table.jsonb('settings').notNullable();
    table.timestamp('created_at').notNullable().defaultTo(db.fn.now());
    table.timestamp('removed_at');
  });
  await db.raw(
    'create unique index shelf_destinations_name on shelf_destinations (account_id, name) where removed_at is null',
  );
  await db.schema.alterTable('destinations', (table) => {
    table.uuid('shelf_id').references('shelf_destinations.id').onDelete('SET NULL').index();
    table.text('name');
  });
  await db('destinations').update({ name: db.raw(`settings ->> 'name'`) });
  await db.schema.alterTable('destinations', (table) => {
    table.dropNullable('name');
    table.unique(['release_id', 'name']);
  });
  await db.schema.alterTable('releases', (table) => {
    table.text('cover_hash');
    table.text('cover_type');
    table.check('(cover_hash is null) = (cover_type is null)', {}, 'releases_cover');
  });
  const accounts = await db('accounts').select<{ id: string; settings: { destinations?: string[] } | null }[]>(
    ...['id', 'settings'],
  );
  for (const { id, settings } of accounts) {
    await fillShelf(db, id, settings?.destinations);
    await db.raw(
      `update destinations d set shelf_id = s.id from shelf_destinations s, releases r
       where s.account_id = ? and r.account_id = ? and d.release_id = r.id and d.name = s.name`,
      [id, id],
    );
  }
  await db('accounts').update({ settings: db.raw(`settings - 'destinations' || '{"schema": 2}'`) });
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
