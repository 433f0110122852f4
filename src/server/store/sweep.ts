import { mkdir, readdir, rename, rm, stat, utimes } from 'node:fs/promises';
import path from 'node:path';
import type { Logger } from 'pino';
import type { AudioStore } from './audio-store';
import { FILES, INCOMING, isHash } from './audio-store';

const HOUR_MS = 3600 * 1000;
/** Temporary files older than this belong to nobody any more. */
const STALE_MS = 24 * HOUR_MS;
/** A stored file younger than this may still be waiting for its row. */
const YOUNG_MS = HOUR_MS;
/** How long an unwanted file can still be had back. */
export const QUARANTINE_MS = 7 * 24 * HOUR_MS;
export const QUARANTINE = 'quarantine';
/** More unwanted files at once than this share of all, and than this number, are more likely a fault than a clean-up. */
const SMALL_SHARE = 0.1;
const SMALL_NUMBER = 50;

export interface Swept {
  quarantined: number;
  /** Files that are referred to again, brought back from quarantine. */
  restored: number;
  /** Files deleted for good: stale temporary ones, and those that were in quarantine long enough. */
  deleted: number;
  /** Files that were left because they are too many to go without an operator. */
  held: number;
}

interface Entry {
  name: string;
  file: string;
  ageMs: number;
}

async function entries(folder: string, now: number): Promise<Entry[]> {
  const found: Entry[] = [];
  for (const name of await readdir(folder).catch(() => [])) {
    const file = path.join(folder, name);
    const about = await stat(file).catch(() => null);
    if (about?.isFile()) found.push({ name, file, ageMs: now - about.mtimeMs });
  }
  return found;
}

/**
 * Tidies a store: what nothing refers to goes into quarantine, and from there after some days; temporary files of killed
 * processes are removed. Every file is logged, and files that the store did not name are never touched. `operator` lifts
 * the limit on how much goes at once.
 */
export async function sweep(
  store: AudioStore,
  referenced: ReadonlySet<string>,
  logger: Logger,
  { now = Date.now(), operator = false }: { now?: number; operator?: boolean } = {},
): Promise<Swept> {
  const swept: Swept = { quarantined: 0, restored: 0, deleted: 0, held: 0 };
  const quarantine = path.join(store.folder, QUARANTINE);
  const remove = async ({ name, file }: Entry, why: string) => {
    await rm(file, { force: true });
    logger.warn({ file: name }, why);
    swept.deleted++;
  };

  for (const entry of await entries(path.join(store.folder, INCOMING), now))
    if (entry.ageMs > STALE_MS) await remove(entry, 'removed a temporary file that nobody works on');

  for (const entry of (await entries(quarantine, now)).filter(({ name }) => isHash(name))) {
    if (referenced.has(entry.name)) {
      const target = store.path(entry.name);
      await mkdir(path.dirname(target), { recursive: true });
      await rename(entry.file, target);
      logger.warn({ file: entry.name }, 'brought back a file that is referred to again');
      swept.restored++;
    } else if (entry.ageMs > QUARANTINE_MS) await remove(entry, 'deleted a file that nothing referred to for days');
  }

  let all = 0;
  const unwanted: Entry[] = [];
  for (const part of await readdir(path.join(store.folder, FILES)).catch(() => [])) {
    for (const entry of await entries(path.join(store.folder, FILES, part), now)) {
      if (!isHash(entry.name)) continue;
      all++;
      if (!referenced.has(entry.name) && entry.ageMs > YOUNG_MS) unwanted.push(entry);
    }
  }
  if (!operator && unwanted.length > Math.max(SMALL_NUMBER, SMALL_SHARE * all)) {
    logger.error(
      { unwanted: unwanted.length, all },
      'nothing refers to an unusually large share of the stored files, so none was moved; if that is right: npm run store -- sweep --all',
    );
    return { ...swept, held: unwanted.length };
  }
  if (unwanted.length > 0) await mkdir(quarantine, { recursive: true });
  for (const { name, file } of unwanted) {
    const target = path.join(quarantine, name);
    await rename(file, target);
    await utimes(target, now / 1000, now / 1000);
    logger.warn({ file: name }, 'moved a file that nothing refers to into quarantine');
    swept.quarantined++;
  }
  return swept;
}
