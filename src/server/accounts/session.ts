import { getIronSession } from 'iron-session';
import { cookies } from 'next/headers';
import { getConfig } from '../config';
import { database } from '../database/connection';
import { Problem } from '../problem';

export interface Account {
  id: string;
  email: string;
  name: string;
}

interface Session {
  accountId?: string;
}

const MAX_AGE_SECONDS = 30 * 24 * 3600;

async function session() {
  const { sessionSecret, secureCookie } = getConfig();
  return getIronSession<Session>(await cookies(), {
    cookieName: 'copper_lane',
    password: sessionSecret,
    ttl: MAX_AGE_SECONDS,
    cookieOptions: { secure: secureCookie, sameSite: 'strict', httpOnly: true },
  });
}

/** Who is signed in, or null. */
export async function currentAccount(): Promise<Account | null> {
  const { accountId } = await session();
  if (!accountId) return null;
  return (
    (await database()('accounts').where({ id: accountId }).first<Account | undefined>('id', 'email', 'name')) ?? null
  );
}

/** Who is asking. Throws a Problem (401) when nobody is signed in. */
export async function requireAccount(): Promise<Account> {
  const account = await currentAccount();
  if (!account) throw new Problem(401, 'You are not signed in, or your session has ended. Sign in and try again.');
  return account;
}

export async function beginSession(account: Account): Promise<void> {
  const current = await session();
  current.accountId = account.id;
  await current.save();
}

export async function endSession(): Promise<void> {
  (await session()).destroy();
}
