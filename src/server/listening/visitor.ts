import { getIronSession } from 'iron-session';
import type { Knex } from 'knex';
import { cookies } from 'next/headers';
import { RateLimiterRes, type RateLimiterPostgres } from 'rate-limiter-flexible';
import { passwordMatches } from '../accounts/password';
import { getConfig } from '../config';
import { rateLimiter } from '../database/rate-limiter';
import { clientAddress, networkOf } from '../http/address';
import { Problem } from '../problem';
import { linkByToken, type LinkRow } from './links';
import { heardSchema, type Heard } from './programme';

/** Wrong addresses and passphrases from one network, in a quarter of an hour. */
const WRONG = { points: 20, duration: 15 * 60 };
/** Wrong passphrases of one link from anywhere, in an hour: browsers that have opened it already are not asked. */
const WRONG_OF_LINK = { points: 60, duration: 3600 };
const OPENED_SECONDS = 30 * 24 * 3600;
/** Links that a browser keeps open. */
const MOST_OPENED = 50;

/** Who asks: by the headers of a request. */
type Asking = Pick<Request, 'headers'>;

const byNetwork = (db: Knex) => rateLimiter(db, 'link', WRONG);
const byLink = (db: Knex) => rateLimiter(db, 'passphrase', WRONG_OF_LINK);
const keyOf = (asking: Asking) => networkOf(clientAddress(asking)).slice(0, 240);

/** The links with a passphrase that this browser has opened. */
async function openedLinks() {
  const { sessionSecret, secureCookie } = getConfig();
  return getIronSession<{ links?: string[] }>(await cookies(), {
    cookieName: secureCookie ? '__Host-copper_listening' : 'copper_listening',
    ...{ password: sessionSecret, ttl: OPENED_SECONDS },
    cookieOptions: { secure: secureCookie, sameSite: 'lax', httpOnly: true, path: '/' },
  });
}

/** Counts a guess. Throws a Problem (429) after too many. */
async function countGuess(throttle: RateLimiterPostgres, key: string): Promise<void> {
  try {
    await throttle.consume(key);
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    const minutes = Math.ceil(error.msBeforeNext / 60_000);
    throw new Problem(
      429,
      `Too many wrong addresses or passphrases. Wait ${minutes} ${minutes === 1 ? 'minute' : 'minutes'} and try again.`,
      { retryAfterSeconds: Math.ceil(error.msBeforeNext / 1000) },
    );
  }
}

/** The link of an address. Throws a Problem: 404 for none, 410 when it has ended, 429 after too many guesses. */
async function workingLink(db: Knex, asking: Asking, token: string): Promise<LinkRow> {
  const link = await linkByToken(db, token);
  if (!link) {
    await countGuess(byNetwork(db), keyOf(asking));
    throw new Problem(404, 'There is no listening link at this address. Check that you copied all of it.');
  }
  if (
    link.removed_at !== null ||
    link.revoked_at !== null ||
    (link.expires_at !== null && link.expires_at.getTime() <= Date.now())
  )
    throw new Problem(410, 'This listening link has ended. Ask whoever sent it for a new one.');
  if (link.deleted)
    throw new Problem(
      410,
      'Something that this link led to was deleted. Ask whoever sent it for an updated one; if it is restored, this one works again.',
    );
  return link;
}

/** A link that a visitor may use. Throws a Problem as {@link workingLink} does, and 401 where its passphrase was not entered. */
export async function openLink(db: Knex, asking: Asking, token: string): Promise<LinkRow> {
  const link = await workingLink(db, asking, token);
  if (link.passphrase_hash === null) return link;
  const { links = [] } = await openedLinks();
  if (!links.includes(link.id)) throw new Problem(401, 'This link asks for a passphrase.', { code: 'passphrase' });
  return link;
}

/** Opens a link with its passphrase in this browser. Throws a Problem: 401 when it is wrong, 429 after too many. */
export async function enterPassphrase(db: Knex, asking: Asking, token: string, passphrase: string): Promise<void> {
  const link = await workingLink(db, asking, token);
  if (link.passphrase_hash === null) return;
  // Counted before it is checked, so that bursts are throttled too.
  await countGuess(byNetwork(db), keyOf(asking));
  await countGuess(byLink(db), link.id);
  if (!(await passwordMatches(link.passphrase_hash, passphrase)))
    throw new Problem(401, 'This is not the passphrase. Check it and try again.', { code: 'passphrase' });
  await byNetwork(db).reward(keyOf(asking));
  await byLink(db).reward(link.id);
  const opened = await openedLinks();
  opened.links = [...(opened.links ?? []).filter((id) => id !== link.id), link.id].slice(-MOST_OPENED);
  await opened.save();
}

/** What can be heard on a link. Throws a Problem (409) until it was rendered. */
export function heardOn({ heard }: LinkRow): Heard {
  if (heard === null) throw new Problem(409, 'The tracks are still being prepared. Try again in a moment.');
  return heardSchema.parse(heard);
}

/** A track that can be heard on a link. Throws a Problem (404) for any other. */
export function heardTrack(link: LinkRow, trackId: string): Heard['tracks'][number] {
  const track = heardOn(link).tracks.find((each) => each.trackId === trackId);
  if (!track) throw new Problem(404, 'This track is not on this listening page. Reload it.');
  return track;
}
