import path from 'node:path';
import type { Knex } from 'knex';

const EXTENSION = '.ts';

/**
 * Brings the database to the newest form by the files in `migrations`, in the order of their names; safe to run by several
 * processes at once. They are only ever added to, and go forward only.
 */
export async function migrate(db: Knex): Promise<void> {
  // Earlier versions kept the names of migrations without the extension of their files.
  if (await db.schema.hasTable('knex_migrations'))
    await db('knex_migrations')
      .whereNot('name', 'like', `%${EXTENSION}`)
      .update({ name: db.raw(`name || '${EXTENSION}'`) });
  await db.migrate.latest({
    directory: path.join(import.meta.dirname, 'migrations'),
    loadExtensions: [EXTENSION],
  });
}
