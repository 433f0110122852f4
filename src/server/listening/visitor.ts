import { getIronSession } from 'iron-session';
import { cookies } from 'next/headers';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { passwordMatches } from '../accounts/password';
import { getConfig } from '../config';
import { database } from '../database/connection';
import { clientAddress } from '../http/address';
import { Problem } from '../problem';
import { linkByToken } from './links';

/** Wrong addresses and passphrases from one address of the network, in a quarter of an hour. */
const WRONG = { points: 20, duration: 15 * 60 };
const holder = globalThis as { copperWrongLinks?: RateLimiterPostgres };
const OPENED_SECONDS = 30 * 24 * 3600;

function wrong(): RateLimiterPostgres {
  return (holder.copperWrongLinks ??= new RateLimiterPostgres({
    ...WRONG,
    ...{ storeClient: database(), storeType: 'knex', tableName: 'throttles', tableCreated: true },
    ...{ keyPrefix: 'link', clearExpiredByTimeout: false },
  }));
}

/** Which links with a passphrase this browser has opened. */
async function openedLinks() {
  const { sessionSecret, secureCookie } = getConfig();
  return getIronSession<{ links?: string[] }>(await cookies(), {
    cookieName: secureCookie ? '__Host-copper_listening' : 'copper_listening',
    ...{ password: sessionSecret, ttl: OPENED_SECONDS },
    cookieOptions: { secure: secureCookie, sameSite: 'lax', httpOnly: true, path: '/' },
  });
}

/** Counts a wrong guess. Throws a Problem (429) after too many. */
async function countWrong(request: Request): Promise<void> {
  try {
    await wrong().consume(clientAddress(request).slice(0, 240));
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    throw new Problem(429, 'Too many wrong addresses or passphrases. Wait a quarter of an hour and try again.', {
      retryAfterSeconds: Math.ceil(error.msBeforeNext / 1000),
    });
  }
}

const GONE = 'This listening link has ended. Ask whoever sent it for a new one.';

/** The link of an address that works now. Throws a Problem: 404, 410 when it has ended, 429 after too many guesses. */
export async function workingLink(request: Request, token: string) {
  const link = await linkByToken(database(), token);
  if (!link) {
    await countWrong(request);
    throw new Problem(404, 'There is no listening link at this address. Check that you copied all of it.');
  }
  if (link.revoked_at !== null || (link.expires_at !== null && link.expires_at.getTime() <= Date.now()))
    throw new Problem(410, GONE);
  return link;
}

/** The same, opened with its passphrase where it has one. Throws besides a Problem (401) when it was not. */
export async function openLink(request: Request, token: string) {
  const link = await workingLink(request, token);
  if (link.passphrase_hash === null) return link;
  const { links = [] } = await openedLinks();
  if (!links.includes(link.id)) throw new Problem(401, 'This link asks for a passphrase.', { code: 'passphrase' });
  return link;
}

/** Opens a link with its passphrase in this browser. Throws a Problem: 401 when it is wrong, 429 after too many. */
export async function enterPassphrase(request: Request, token: string, passphrase: string): Promise<void> {
  const link = await workingLink(request, token);
  if (link.passphrase_hash === null) return;
  await countWrong(request);
  if (!(await passwordMatches(link.passphrase_hash, passphrase)))
    throw new Problem(401, 'This is not the passphrase. Check it and try again.', { code: 'passphrase' });
  await wrong().reward(clientAddress(request).slice(0, 240));
  const opened = await openedLinks();
  opened.links = [...(opened.links ?? []).filter((id) => id !== link.id), link.id].slice(-50);
  await opened.save();
}
