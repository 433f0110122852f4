import { hash, verify } from '@node-rs/argon2';
import { Semaphore } from 'async-mutex';
import { Problem } from '../problem';

/** Hashing takes a core for a while: more at once would only make everyone else wait. */
const AT_ONCE = 1;
const WAITING_MOST = 12;

// One queue for the process, however often its modules are loaded.
const holder = globalThis as {
  copperHashing?: Semaphore;
  copperHashingWaiting?: number;
  copperDecoy?: Promise<string>;
};

/** Waits for its turn. Throws a Problem (503) when too many wait already. */
async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  holder.copperHashing ??= new Semaphore(AT_ONCE);
  const waiting = holder.copperHashingWaiting ?? 0;
  if (waiting >= WAITING_MOST)
    throw new Problem(503, 'Too many people are signing in right now. Wait a few seconds and try again.', {
      retryAfterSeconds: 5,
    });
  holder.copperHashingWaiting = waiting + 1;
  try {
    return await holder.copperHashing.runExclusive(work);
  } finally {
    holder.copperHashingWaiting -= 1;
  }
}

export function hashPassword(password: string): Promise<string> {
  return inTurn(() => hash(password));
}

/**
 * Whether a password is the one of a hash. Without a hash another one is checked in its place, so that the time taken does
 * not tell which accounts exist.
 */
export function passwordMatches(passwordHash: string | undefined, password: string): Promise<boolean> {
  return inTurn(async () => {
    holder.copperDecoy ??= hash('no account has this password');
    const matches = await verify(passwordHash ?? (await holder.copperDecoy), password);
    return matches && passwordHash !== undefined;
  });
}
