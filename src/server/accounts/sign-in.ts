import { hash, verify } from '@node-rs/argon2';
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import type { SignIn } from '../../exchange/account';
import { database } from '../database/connection';
import { Problem } from '../problem';
import type { Account } from './session';

/** Ten wrong passwords in a quarter of an hour for one address. */
const attempts = new RateLimiterMemory({ points: 10, duration: 15 * 60 });

export function hashPassword(password: string): Promise<string> {
  return hash(password);
}

// Checked in place of a missing account's, so that the time taken does not tell which addresses exist.
let decoy: Promise<string> | undefined;

/** The account of an address and password. Throws a Problem: 401 when they do not match, 429 after too many tries. */
export async function signIn({ email, password }: SignIn): Promise<Account> {
  const limited = await attempts.get(email);
  if (limited && limited.remainingPoints <= 0) throw tooMany(limited);
  const row = await database()('accounts').where({ email }).first<(Account & { password_hash: string }) | undefined>();
  decoy ??= hashPassword('no account has this password');
  const matches = await verify(row?.password_hash ?? (await decoy), password);
  if (!row || !matches) {
    await attempts.consume(email).catch((error: unknown) => {
      throw error instanceof RateLimiterRes ? tooMany(error) : error;
    });
    throw new Problem(401, 'E-mail and password do not match. Check both and try again.');
  }
  await attempts.delete(email);
  return { id: row.id, email: row.email, name: row.name };
}

function tooMany({ msBeforeNext }: RateLimiterRes): Problem {
  return new Problem(
    429,
    `Too many wrong passwords for this address. Wait ${Math.ceil(msBeforeNext / 60000)} minutes and try again.`,
  );
}

/** E-mail and password of the demo account while its data is present. */
export const DEMO = { email: 'demo@copperlane.example', password: 'slow-orbits', name: 'Demo engineer' } as const;

export async function demoPresent(): Promise<boolean> {
  return (await database()('accounts').where({ demo: true, email: DEMO.email }).first('id')) !== undefined;
}
