import { mkdir, statfs } from 'node:fs/promises';
import type { Knex } from 'knex';
import { getConfig } from '../config';
import { diskFull, Problem } from '../problem';
import type { AudioStore } from './audio-store';
import { referencesOf } from './references';

/** Bytes that can be written to the store before its disk has less free than it should. */
async function freeBytes(folder: string): Promise<number> {
  await mkdir(folder, { recursive: true });
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize - getConfig().minFreeBytes;
}

/** Throws a Problem (507) unless this many bytes more can be written, with what has to stay free left over. */
export async function requireRoom(store: AudioStore, bytes: number): Promise<void> {
  if ((await freeBytes(store.folder)) < bytes) throw diskFull();
}

/** Bytes of all files that an account's rows refer to, each counted once. */
export async function accountBytes(db: Knex, store: AudioStore, accountId: string): Promise<number> {
  const hashes = await referencesOf(db, accountId);
  let sum = 0;
  for (const hash of hashes) sum += await store.size(hash).catch(() => 0);
  return sum;
}

/** Throws a Problem: 507 when the disk is full, 413 when the account would go over its quota. */
export async function requireRoomFor(db: Knex, store: AudioStore, accountId: string, bytes: number): Promise<void> {
  await requireRoom(store, bytes);
  const { quotaBytes } = getConfig();
  const used = await accountBytes(db, store, accountId);
  if (used + bytes > quotaBytes) {
    const gb = (value: number) => (value / 1e9).toFixed(value < 1e10 ? 2 : 0);
    throw new Problem(
      413,
      `This account has ${gb(quotaBytes)} GB of room and uses ${gb(used)} GB; this file would exceed that. Remove tracks or deliveries you no longer need.`,
      { code: 'overQuota' },
    );
  }
}
