import knex, { type Knex } from 'knex';
import { getConfig } from '../config';

// One pool for the process, also when a development server loads this module again.
const holder = globalThis as { copperDatabase?: Knex };

/**
 * The pool of this process, for routes, pages, jobs and commands. What these call is handed the pool or a transaction: a
 * second connection for a part of the same work would wait for others that wait for theirs, until all of them give up.
 */
export function database(): Knex {
  return (holder.copperDatabase ??= connect(getConfig().databaseUrl));
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
