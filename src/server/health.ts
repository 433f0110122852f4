import { constants } from 'node:fs';
import { access } from 'node:fs/promises';
import type { Knex } from 'knex';
import { output } from './codecs/process';
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
/** Programs do not come and go: what a start of one costs is paid this often. */
const PROGRAM_FRESH_MS = 60_000;
interface Kept<Found> {
  at: number;
  found: Promise<Found>;
}
const holder = globalThis as { copperHealth?: Kept<Health>; copperFfmpeg?: Kept<boolean> };

/** What was found last, unless that is too long ago. */
function fresh<Found>(kept: Kept<Found> | undefined, ms: number, look: () => Promise<Found>): Kept<Found> {
  const now = Date.now();
  return kept && now - kept.at <= ms ? kept : { at: now, found: look() };
}

/** Whether ffmpeg starts. One that did not is looked for again at once. */
function ffmpegWorks(): Promise<boolean> {
  const kept = fresh(holder.copperFfmpeg, PROGRAM_FRESH_MS, () => works(() => output('ffmpeg', ['-version'])));
  holder.copperFfmpeg = kept;
  void kept.found.then((found) => {
    if (!found && holder.copperFfmpeg === kept) holder.copperFfmpeg = undefined;
  });
  return kept.found;
}

async function works(check: () => Promise<unknown>): Promise<boolean> {
  try {
    return (await check()) !== false;
  } catch {
    return false;
  }
}

async function look(db: Knex): Promise<Health> {
  const [databaseWorks, store, ffmpeg, worker] = await Promise.all([
    works(() => db.raw('select 1').timeout(3000)),
    works(async () => {
      await requireMatchingStore(db, storeFolder());
      await access(storeFolder(), constants.W_OK);
    }),
    ffmpegWorks(),
    works(async () => (await workersThere(db)).length > 0),
  ]);
  return { database: databaseWorks, store, ffmpeg, worker };
}

/** Whether everything the application depends on answers; checked once for simultaneous requests. */
export function health(db: Knex): Promise<Health> {
  holder.copperHealth = fresh(holder.copperHealth, FRESH_MS, () => look(db));
  return holder.copperHealth.found;
}
