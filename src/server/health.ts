import { constants } from 'node:fs';
import { access } from 'node:fs/promises';
import { output } from './codecs/process';
import { database } from './database/connection';
import { workersThere } from './jobs/workers';
import { storeFolder } from './store/audio-store';
import { requireMatchingStore } from './store/identity';

export interface Health {
  database: boolean;
  /** Whether the audio store can be written, and belongs to the database. */
  store: boolean;
  ffmpeg: boolean;
  /** Whether any worker takes jobs. */
  worker: boolean;
}

/** An answer is shared by all requests within this time. */
const FRESH_MS = 2000;
const holder = globalThis as { copperHealth?: { at: number; found: Promise<Health> } };

async function works(check: () => Promise<unknown>): Promise<boolean> {
  try {
    return (await check()) !== false;
  } catch {
    return false;
  }
}

async function look(): Promise<Health> {
  const [databaseWorks, store, ffmpeg, worker] = await Promise.all([
    works(() => database().raw('select 1').timeout(3000)),
    works(async () => {
      await requireMatchingStore(database(), storeFolder());
      await access(storeFolder(), constants.W_OK);
    }),
    works(() => output('ffmpeg', ['-version'])),
    works(async () => (await workersThere(database())).length > 0),
  ]);
  return { database: databaseWorks, store, ffmpeg, worker };
}

/** Whether everything the application depends on answers; checked once for simultaneous requests. */
export function health(): Promise<Health> {
  const now = Date.now();
  if (!holder.copperHealth || now - holder.copperHealth.at > FRESH_MS) holder.copperHealth = { at: now, found: look() };
  return holder.copperHealth.found;
}
