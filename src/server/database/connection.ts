import knex, { type Knex } from 'knex';
import { getConfig } from '../config';

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
