import { mkdir, readdir, stat, statfs } from 'node:fs/promises';
import path from 'node:path';
import type { Knex } from 'knex';
import { getConfig } from '../config';
import { ownedBy } from '../ownership';
import { diskFull, Problem } from '../problem';
import type { AudioStore } from './audio-store';
import { referencesOf } from './references';

/** Folder of the store in which uploads arrive. */
export const UPLOADS = 'uploads';

/** Work whose file is not there yet, and what it is expected to take. */
const UNDER_WAY = ['deliveries', 'images', 'listening_links', 'encode_checks'] as const;

/** Bytes that can be written to a folder before its disk has less free than it should. */
async function freeBytes(folder: string): Promise<number> {
  await mkdir(folder, { recursive: true });
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize - getConfig().minFreeBytes;
}

/** Throws a Problem (507) unless this many bytes more can be written, with what has to stay free left over. */
export async function requireRoom(store: Pick<AudioStore, 'folder'>, bytes: number): Promise<void> {
  if ((await freeBytes(store.folder)) < bytes) throw diskFull();
}

/** Sizes of files; those that no one has asked for yet are looked at once. */
async function sizeOf(db: Knex, store: AudioStore, hashes: ReadonlySet<string>): Promise<number> {
  const known = await db('stored_files')
    .whereRaw('hash = any(?)', [[...hashes]])
    .select<{ hash: string; bytes: string }[]>('hash', 'bytes');
  const sizes = new Map(known.map(({ hash, bytes }) => [hash, Number(bytes)]));
  for (const hash of hashes) {
    if (sizes.has(hash)) continue;
    const bytes = await store.size(hash).catch(() => null);
    if (bytes === null) continue;
    sizes.set(hash, bytes);
    await db('stored_files').insert({ hash, bytes }).onConflict('hash').ignore();
  }
  return [...sizes.values()].reduce((sum, bytes) => sum + bytes, 0);
}

/** Bytes that an account uses: files that its rows refer to, each counted once, uploads as announced, and work under way. */
export async function accountBytes(db: Knex, store: AudioStore, accountId: string): Promise<number> {
  const sum = (rows: { bytes: string | null }[]) => Number(rows[0].bytes ?? 0);
  const stored = await sizeOf(db, store, await referencesOf(db, accountId));
  const uploads = sum(await db('uploads').where({ account_id: accountId }).sum('bytes as bytes'));
  let expected = 0;
  for (const table of UNDER_WAY)
    expected += sum(
      await ownedBy(db, table, accountId, 'all')
        .whereNotIn('x.status', ['finished', 'failed', 'cancelled'])
        .sum<{ bytes: string | null }[]>('x.reserved_bytes as bytes'),
    );
  return stored + uploads + expected;
}

/** Bytes that uploads under way, of all accounts, have still to write. */
async function announcedBytes(db: Knex, store: AudioStore): Promise<number> {
  const rows = await db('uploads').select<{ id: string; bytes: string }[]>('id', 'bytes');
  let left = 0;
  for (const { id, bytes } of rows) {
    const arrived = await stat(path.join(store.folder, UPLOADS, id))
      .then(({ size }) => size)
      .catch(() => 0);
    left += Math.max(0, Number(bytes) - arrived);
  }
  return left;
}

/**
 * Throws a Problem: 507 when the disk is full, 413 when the account would go over its quota. `held` of the bytes count already:
 * those of an upload that is taken.
 */
export async function requireRoomFor(
  db: Knex,
  store: AudioStore,
  accountId: string,
  bytes: number,
  held = 0,
): Promise<void> {
  await requireRoom(store, bytes + (await announcedBytes(db, store)));
  const { quotaBytes } = getConfig();
  const used = await accountBytes(db, store, accountId);
  if (used + bytes - held > quotaBytes) {
    const gb = (value: number) => (value / 1e9).toFixed(value < 1e10 ? 2 : 0);
    throw new Problem(
      413,
      `This account has ${gb(quotaBytes)} GB of room and uses ${gb(used)} GB; this file would exceed that. Remove tracks or deliveries you no longer need.`,
      { code: 'overQuota' },
    );
  }
}

/** Removes the rows of uploads whose files are gone. */
export async function forgetEndedUploads(db: Knex, store: AudioStore): Promise<void> {
  const there = await readdir(path.join(store.folder, UPLOADS)).catch(() => [] as string[]);
  await db('uploads')
    .whereRaw('not (id = any(?))', [there])
    .whereRaw(`created_at < now() - interval '1 minute'`)
    .delete();
}
