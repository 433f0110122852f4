import { randomUUID } from 'node:crypto';
import { link, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { Knex } from 'knex';
import { z } from 'zod';
import { Problem } from '../problem';
import { referencedFiles } from './references';

/** What a store's folder says of itself. */
const MARK = 'store.json';
const markSchema = z.object({ installation: z.uuid() });

/** Answers of this process, so that each store is looked at once; only those that match are kept. */
const matching = new Map<string, Promise<void>>();

function mismatch(folder: string, what: string): Problem {
  return new Problem(
    503,
    `The audio store and the database do not belong together, so nothing is read or removed. ${what} Check COPPER_DATA and DATABASE_URL (store: ${path.basename(path.dirname(folder))}/${path.basename(folder)}).`,
  );
}

/**
 * Makes sure that a store's folder and a database belong together: both carry the installation's identifier. A folder
 * without one gets it only when nothing speaks against it. Throws a Problem (503) otherwise.
 */
export function requireMatchingStore(db: Knex, folder: string): Promise<void> {
  const known = matching.get(folder);
  if (known) return known;
  const found = matchStore(db, folder);
  matching.set(folder, found);
  found.catch(() => matching.delete(folder));
  return found;
}

/** The same, looked at afresh. */
export async function matchStore(db: Knex, folder: string): Promise<void> {
  const row = await db('installation').first<{ id: string } | undefined>('id');
  if (!row) throw mismatch(folder, 'The database has no identifier.');
  const marked = await readMark(folder);
  if (marked === null) return mark(db, folder, row.id);
  if (marked !== row.id) throw mismatch(folder, 'The store was made for another database.');
}

/** The identifier that a folder carries; null without one. */
export async function readMark(folder: string): Promise<string | null> {
  const text = await readFile(path.join(folder, MARK), 'utf8').catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return null;
    throw error;
  });
  if (text === null) return null;
  let data: unknown = null;
  try {
    data = JSON.parse(text);
  } catch {
    // Told below, as everything else that is no mark.
  }
  const parsed = markSchema.safeParse(data);
  if (!parsed.success) throw mismatch(folder, `Its ${MARK} can’t be read.`);
  return parsed.data.installation;
}

/** Marks a folder whose files are those that the database refers to, or that is as empty as the database. */
async function mark(db: Knex, folder: string, installation: string): Promise<void> {
  const files = await storedHashes(folder);
  const referenced = await referencedFiles(db);
  const there = [...referenced].filter((hash) => files.has(hash)).length;
  if (files.size > 0 && there === 0) throw mismatch(folder, 'The store has files that this database does not know.');
  if (referenced.size > 0 && there === 0)
    throw mismatch(folder, 'The store is empty, but the database refers to files.');
  await writeMark(folder, installation);
}

/** Writes the mark whole, unless another process was first; then that one's counts. */
export async function writeMark(folder: string, installation: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  const part = path.join(folder, `${MARK}.${randomUUID()}`);
  await writeFile(part, `${JSON.stringify({ installation })}\n`, { flush: true });
  try {
    await link(part, path.join(folder, MARK));
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    if ((await readMark(folder)) !== installation) throw mismatch(folder, 'The store was made for another database.');
  } finally {
    await rm(part, { force: true });
  }
}

/** Names of all files in a store's folder that look like its own. */
async function storedHashes(folder: string): Promise<Set<string>> {
  const hashes = new Set<string>();
  for (const part of await readdir(path.join(folder, 'files')).catch(() => []))
    for (const name of await readdir(path.join(folder, 'files', part)).catch(() => []))
      if (/^[0-9a-f]{64}$/.test(name)) hashes.add(name);
  return hashes;
}
