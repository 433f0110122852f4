import type { Knex } from 'knex';

/**
 * Releases and tracks with the particulars that a delivery carries, versions in an order of their own, what was deleted
 * kept for a while, and the settings of an account.
 */
export async function up(db: Knex): Promise<void> {
  const text = (table: Knex.AlterTableBuilder, ...names: string[]) =>
    names.forEach((name) => table.text(name).notNullable().defaultTo(''));
  await db.schema.alterTable('accounts', (table) => {
    // Null: nothing was chosen yet.
    table.jsonb('settings');
  });
  await db.schema.alterTable('releases', (table) => {
    text(table, 'ean', 'copyright', 'notes');
    table.integer('year');
    table.timestamp('archived_at', { useTz: true });
  });
  await db.schema.alterTable('tracks', (table) => {
    text(table, 'artist', 'isrc', 'composer', 'copyright', 'notes');
    table.dropUnique(['release_id', 'position']);
  });
  await db.schema.alterTable('versions', (table) => {
    table.integer('position').notNullable().defaultTo(0);
  });
  await db.raw(
    `update versions v set position = o.position from
       (select id, row_number() over (partition by track_id order by created_at, id) as position from versions) o
     where o.id = v.id`,
  );
  for (const name of ['releases', 'tracks', 'mixes', 'versions'] as const) {
    await db.schema.alterTable(name, (table) => {
      // When it was deleted; it can be restored until it is removed for good.
      table.timestamp('removed_at', { useTz: true });
    });
    await db.raw(`create index ${name}_removed on ${name} (removed_at) where removed_at is not null`);
  }
  // Of what is there, no two tracks of a release have one place; checked when a transaction ends.
  await db.raw(
    `alter table tracks add constraint tracks_one_a_place exclude using btree (release_id with =, position with =)
       where (removed_at is null) deferrable initially deferred`,
  );
}

export function down(): Promise<void> {
  return Promise.reject(new Error('Migrations go forward only.'));
}
