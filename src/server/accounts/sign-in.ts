import type { Knex } from 'knex';
import type { SignIn } from '../../contracts/account';
import { getConfig } from '../config';
import { Problem } from '../problem';
import { DEMO } from './demo-account';
import { knowsBrowser, rememberBrowser } from './known-browsers';
import { passwordMatches } from './password';
import { beginSession, type Account } from './session';
import { countAttempt, forgetAttempt } from './throttle';

/**
 * Begins a session of the account that an e-mail address and a password belong to. Throws a Problem: 401 when they do not
 * match, 429 after too many tries.
 */
export async function signIn(db: Knex, { email, password }: SignIn, address: string): Promise<Account> {
  const found = await db('accounts').where({ email }).first<(Account & { password_hash: string }) | undefined>();
  // Its password is published: where the demo is not wanted, it opens nothing.
  const row = found?.demo && !getConfig().demo ? undefined : found;
  const knownBrowser = row !== undefined && (await knowsBrowser(row.id));
  const attempt = { email, address, knownBrowser };
  await countAttempt(db, attempt);
  if (!(await passwordMatches(row?.password_hash, password)) || !row)
    throw new Problem(401, 'E-mail and password do not match. Check both and try again.');
  await forgetAttempt(db, attempt);
  await rememberBrowser(row.id);
  await beginSession(db, row.id);
  return row;
}

/** Whether the sign-in page can offer the demo. */
export async function demoPresent(db: Knex): Promise<boolean> {
  if (!getConfig().demo) return false;
  return (await db('accounts').where({ demo: true, email: DEMO.email }).first('id')) !== undefined;
}
