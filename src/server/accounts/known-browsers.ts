import { getIronSession } from 'iron-session';
import { cookies } from 'next/headers';
import { getConfig } from '../config';

/** Accounts that a browser remembers, at most. */
const MOST = 10;
const MAX_AGE_SECONDS = 365 * 24 * 3600;

async function cookie() {
  const { sessionSecret, secureCookie } = getConfig();
  return getIronSession<{ accounts?: string[] }>(await cookies(), {
    cookieName: secureCookie ? '__Host-copper_lane_known' : 'copper_lane_known',
    password: sessionSecret,
    ttl: MAX_AGE_SECONDS,
    cookieOptions: { secure: secureCookie, sameSite: 'strict', httpOnly: true, path: '/' },
  });
}

/** Whether an account was signed in with this browser before: a sealed cookie that outlives the session says so. */
export async function knowsBrowser(accountId: string): Promise<boolean> {
  return (await cookie()).accounts?.includes(accountId) ?? false;
}

export async function rememberBrowser(accountId: string): Promise<void> {
  const known = await cookie();
  known.accounts = [accountId, ...(known.accounts ?? []).filter((id) => id !== accountId)].slice(0, MOST);
  await known.save();
}
