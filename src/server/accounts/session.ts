import { getIronSession } from 'iron-session';
import type { Knex } from 'knex';
import { cookies, headers } from 'next/headers';
import type { SessionSummary } from '../../contracts/account';
import { getConfig } from '../config';
import { Problem } from '../problem';

export interface Account {
  id: string;
  email: string;
  name: string;
  demo: boolean;
}

const MAX_AGE_DAYS = 30;
const AGENT_LENGTH = 200;

async function cookie() {
  const { sessionSecret, secureCookie } = getConfig();
  return getIronSession<{ sessionId?: string }>(await cookies(), {
    // The prefix binds a cookie to this very host, and needs https.
    cookieName: secureCookie ? '__Host-copper_lane' : 'copper_lane',
    password: sessionSecret,
    ttl: MAX_AGE_DAYS * 24 * 3600,
    cookieOptions: { secure: secureCookie, sameSite: 'strict', httpOnly: true, path: '/' },
  });
}

/** Who is signed in, or null. A session that was ended is ignored, whatever its cookie says. */
export async function currentAccount(db: Knex): Promise<Account | null> {
  const { sessionId } = await cookie();
  if (!sessionId) return null;
  const row = await db('sessions as s')
    .join('accounts as a', 'a.id', 's.account_id')
    .where('s.id', sessionId)
    .whereRaw(`s.created_at > now() - interval '${MAX_AGE_DAYS} days'`)
    .first<Account | undefined>('a.id', 'a.email', 'a.name', 'a.demo');
  return row && (!row.demo || getConfig().demo) ? row : null;
}

/** Who is asking. Throws a Problem (401) when nobody is signed in. */
export async function requireAccount(db: Knex): Promise<Account> {
  const account = await currentAccount(db);
  if (!account) throw new Problem(401, 'You are not signed in, or your session has ended. Sign in and try again.');
  return account;
}

/** Begins a session of an account in this browser. */
export async function beginSession(db: Knex, accountId: string): Promise<void> {
  const agent = ((await headers()).get('user-agent') ?? '').toWellFormed().replaceAll('\0', '').slice(0, AGENT_LENGTH);
  await db('sessions').whereRaw(`created_at < now() - interval '${MAX_AGE_DAYS} days'`).delete();
  const [{ id }] = await db('sessions').insert({ account_id: accountId, agent }).returning<{ id: string }[]>('id');
  const current = await cookie();
  current.sessionId = id;
  await current.save();
}

/** Ends the session of this browser, also for copies of its cookie. */
export async function endSession(db: Knex): Promise<void> {
  const current = await cookie();
  if (current.sessionId) await db('sessions').where({ id: current.sessionId }).delete();
  current.destroy();
}

export async function listSessions(db: Knex, accountId: string): Promise<SessionSummary[]> {
  const { sessionId } = await cookie();
  const rows = await db('sessions')
    .where({ account_id: accountId })
    .orderBy('created_at', 'desc')
    .limit(100)
    .select<{ id: string; agent: string; createdAt: string }[]>('id', 'agent', 'created_at as createdAt');
  return rows.map((row) => ({ ...row, current: row.id === sessionId }));
}

/** Ends all sessions of an account but this browser's. */
export async function endOtherSessions(db: Knex, accountId: string): Promise<void> {
  const { sessionId } = await cookie();
  await db('sessions')
    .where({ account_id: accountId })
    .whereRaw('id is distinct from ?', [sessionId ?? null])
    .delete();
}
