import type { Knex } from 'knex';
import { MIGRATIONS } from './migrations';

const EXTENSION = '.ts';

/**
 * Brings the database to the newest form by what is in `migrations`; safe to run by several processes at once. Migrations are
 * only ever added to, and go forward only.
 */
export async function migrate(db: Knex): Promise<void> {
  // Earlier versions kept the names of migrations without the extension of their files.
  if (await db.schema.hasTable('knex_migrations'))
    await db('knex_migrations')
      .whereNot('name', 'like', `%${EXTENSION}`)
      .update({ name: db.raw(`name || '${EXTENSION}'`) });
  await db.migrate.latest({
    migrationSource: {
      getMigrations: () => Promise.resolve(Object.keys(MIGRATIONS)),
      getMigrationName: (name: string) => name,
      getMigration: (name: string) => Promise.resolve(MIGRATIONS[name]),
    },
  });
}
