import knex, { type Knex } from 'knex';
import { getConfig } from '../config';
import { migrations } from './migrations';

// One pool for the process, also when a development server loads this module again.
const holder = globalThis as { copperDatabase?: Knex };

/** The connection pool of this process. */
export function database(): Knex {
  holder.copperDatabase ??= connect(getConfig().databaseUrl);
  return holder.copperDatabase;
}

const STATEMENT_MS = 120_000;

export function connect(connection: string): Knex {
  return knex({
    client: 'pg',
    // A statement that takes longer than this is stopped by the database: nothing here needs a tenth of it.
    connection: { connectionString: connection, statement_timeout: STATEMENT_MS },
    pool: { min: 0, max: 10 },
    acquireConnectionTimeout: 10_000,
  });
}

/** Brings the database to the newest form; safe to run by several processes at once. */
export async function migrate(db: Knex): Promise<void> {
  await db.migrate.latest({
    migrationSource: {
      getMigrations: () => Promise.resolve(Object.keys(migrations)),
      getMigrationName: (name: string) => name,
      getMigration: (name: string) => Promise.resolve(migrations[name]),
    },
  });
}
