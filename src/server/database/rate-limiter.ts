import type { Knex } from 'knex';
import { RateLimiterPostgres } from 'rate-limiter-flexible';

/** How many points may be used up within a duration, in seconds. */
export interface RateLimit {
  readonly points: number;
  readonly duration: number;
}

/** Counts in the database, under keys that begin with a prefix, so that a limit holds for all processes together. */
export function rateLimiter(db: Knex, keyPrefix: string, { points, duration }: RateLimit): RateLimiterPostgres {
  return new RateLimiterPostgres({
    ...{ points, duration, keyPrefix, storeClient: db, storeType: 'knex' },
    ...{ tableName: 'throttles', tableCreated: true, clearExpiredByTimeout: false },
  });
}
