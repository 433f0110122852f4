import type { Knex } from 'knex';
import { RateLimiterRes } from 'rate-limiter-flexible';
import { rateLimiter, type RateLimit } from '../database/rate-limiter';
import { Problem } from '../problem';

const QUARTER_HOUR = 15 * 60;
const HOUR = 3600;

/**
 * How many wrong passwords there may be. Each attempt is counted before the password is checked, so bursts are
 * throttled too.
 */
const LIMITS = {
  /** From one address, for whatever accounts. */
  address: { points: 30, duration: QUARTER_HOUR },
  /** From one address for one account. */
  pair: { points: 10, duration: QUARTER_HOUR },
  /** For one account from anywhere, by browsers it was never signed in with: they cannot lock out those it was. */
  account: { points: 60, duration: HOUR },
  /** By whoever is signed in to an account already. */
  signedIn: { points: 10, duration: QUARTER_HOUR },
} as const satisfies Record<string, RateLimit>;

type Limited = keyof typeof LIMITS;
const limiterOf = (db: Knex, kind: Limited) => rateLimiter(db, kind, LIMITS[kind]);

/** An attempt to sign in. */
export interface Attempt {
  email: string;
  /** Address it comes from. */
  address: string;
  /** Whether the account was signed in with this browser before. */
  knownBrowser: boolean;
}

function keys({ email, address, knownBrowser }: Attempt): [Limited, string][] {
  const all: [Limited, string][] = [
    ['address', address],
    ['pair', `${email} ${address}`],
  ];
  return knownBrowser ? all : [...all, ['account', email]];
}

async function consume(db: Knex, kind: Limited, key: string): Promise<void> {
  try {
    await limiterOf(db, kind).consume(key.slice(0, 240));
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    const minutes = Math.ceil(error.msBeforeNext / 60000);
    throw new Problem(
      429,
      `Too many wrong passwords. Wait ${minutes} ${minutes === 1 ? 'minute' : 'minutes'} and try again.`,
      { retryAfterSeconds: Math.ceil(error.msBeforeNext / 1000) },
    );
  }
}

/** Counts an attempt. Throws a Problem (429) when there were too many. */
export async function countAttempt(db: Knex, attempt: Attempt): Promise<void> {
  for (const [kind, key] of keys(attempt)) await consume(db, kind, key);
}

/** Counts a password that whoever is signed in has entered, until what it gives is called. Throws a Problem (429) when there were too many. */
export async function countPassword(db: Knex, accountId: string): Promise<() => Promise<void>> {
  await consume(db, 'signedIn', accountId);
  return async () => void (await limiterOf(db, 'signedIn').reward(accountId));
}

/** Takes back an attempt that succeeded. */
export async function forgetAttempt(db: Knex, attempt: Attempt): Promise<void> {
  for (const [kind, key] of keys(attempt)) await limiterOf(db, kind).reward(key.slice(0, 240));
}

/** Removes counts that no longer hold anybody up. */
export async function forgetOldAttempts(db: Knex): Promise<void> {
  await db('throttles').where('expire', '<', Date.now()).delete();
}
