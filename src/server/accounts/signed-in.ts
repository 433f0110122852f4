import { notFound, redirect } from 'next/navigation';
import { z } from 'zod';
import { database } from '../database/connection';
import { ownedBy } from '../ownership';
import { currentAccount, type Account } from './session';

const uuid = z.uuid();

/** Who looks at a page; whoever is not signed in is sent to do so, and comes back to `path`. */
export async function signedIn(path: string): Promise<Account> {
  return (await currentAccount(database())) ?? redirect(`/sign-in?next=${encodeURIComponent(path)}`);
}

/** Where one goes after signing in: a page of this application, else the first one. */
export function pageAfterSignIn(next: unknown): string {
  if (typeof next !== 'string') return '/';
  const here = 'http://here';
  try {
    const { origin, pathname, search } = new URL(next, here);
    return origin === here && next.startsWith('/') ? pathname + search : '/';
  } catch {
    return '/';
  }
}

const TITLES = { releases: 'title', tracks: 'title', deliveries: 'file_name' } as const;

/** The title of something of whoever is signed in; null where there is none to be had. */
export async function titleOf(table: keyof typeof TITLES, id: string): Promise<string | null> {
  const account = await currentAccount(database());
  if (!account || !uuid.safeParse(id).success) return null;
  const column = TITLES[table];
  const row = await ownedBy(database(), table, account.id)
    .where('x.id', id)
    .first<Record<string, string | null> | undefined>(`x.${column}`);
  return row ? (row[column] ?? '') : null;
}

/** Shows that there is nothing at an address unless what it names belongs to whoever is signed in. */
export async function requireThere(table: keyof typeof TITLES, id: string): Promise<void> {
  if ((await titleOf(table, id)) === null) notFound();
}
