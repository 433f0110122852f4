import { AsyncLocalStorage } from 'node:async_hooks';
import knex, { type Knex } from 'knex';
import { getConfig } from '../config';

// One pool for the process, also when a development server loads this module again.
const holder = globalThis as { copperDatabase?: Knex; copperUnit?: AsyncLocalStorage<Knex.Transaction> };
const unit = (holder.copperUnit ??= new AsyncLocalStorage());

/**
 * The database, as whoever asks may use it: within a transaction that was begun here, that; else the pool. A second
 * connection for a part of the same work would wait for others that wait for theirs, until all of them give up.
 */
export function database(): Knex {
  const transaction = unit.getStore();
  if (transaction && !transaction.isCompleted()) return transaction;
  holder.copperDatabase ??= withUnits(connect(getConfig().databaseUrl));
  return holder.copperDatabase;
}

/** Has everything that is done in the course of a transaction of a pool be part of it. */
function withUnits(pool: Knex): Knex {
  const begin = pool.transaction.bind(pool) as <T>(work: (trx: Knex.Transaction) => Promise<T>) => Promise<T>;
  const within = <T>(work: (trx: Knex.Transaction) => Promise<T>) => begin((trx) => unit.run(trx, () => work(trx)));
  return Object.defineProperty(pool, 'transaction', { value: within });
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
