import { rm } from 'node:fs/promises';
import type { Knex } from 'knex';
import type { Source } from '../codecs/probe';
import { getConfig } from '../config';
import { inspect } from '../intake/take-in';
import { enqueue } from '../jobs/queue';
import type { SentFile } from '../http/upload';
import { isDiskFull } from '../failures';
import { diskFull, notFound, Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import { requireRoomFor } from '../store/room';
import { requireOwn } from '../ownership';

export const MAX_MIXES = 99;

/** An uploaded file that may be a mix, whole and in the store. */
export interface ReceivedMix {
  fileName: string;
  source: Source;
  hash: string;
}

/**
 * Receives a file and checks it, then has `keep` write its rows. Throws a Problem with the reason when the file cannot
 * be a mix, arrived cut off or finds no room; nothing is kept then.
 */
export async function receive<Result>(
  db: Knex,
  accountId: string,
  { fileName, body, announcedBytes, heldBytes }: SentFile,
  keep: (trx: Knex, mix: ReceivedMix) => Promise<Result>,
): Promise<Result> {
  const { maxUploadBytes } = getConfig();
  if (announcedBytes !== null && announcedBytes > maxUploadBytes) {
    throw new Problem(
      413,
      `${fileName} is larger than ${Math.round(maxUploadBytes / 1048576)} MB, the maximum for a mix.`,
    );
  }
  const store = audioStore(db);
  await requireRoomFor(db, store, accountId, announcedBytes ?? 0, heldBytes);
  const received = await store.receive(body, maxUploadBytes).catch((error: unknown) => {
    if (error instanceof Problem) throw error;
    if (isDiskFull(error)) throw diskFull();
    throw new Problem(400, `The upload of ${fileName} was interrupted. Nothing was kept; upload it again.`);
  });
  try {
    if (announcedBytes !== null && received.bytes !== announcedBytes) {
      throw new Problem(
        400,
        `Only ${received.bytes} of ${announcedBytes} bytes of ${fileName} arrived. Nothing was kept; upload it again.`,
      );
    }
    const source = await inspect(received.file, received.bytes);
    await store.adopt(received.file, received.hash);
    return await db.transaction((trx) => keep(trx, { fileName, source, hash: received.hash }));
  } catch (error) {
    await rm(received.file, { force: true });
    throw error;
  }
}

/** Writes a mix of a track and queues its intake. */
export async function insertMix(
  trx: Knex,
  trackId: string,
  number: number,
  { fileName, source, hash }: ReceivedMix,
): Promise<string> {
  const [{ id }] = await trx('mixes')
    .insert({
      track_id: trackId,
      number,
      file_name: fileName,
      source: JSON.stringify(source),
      sample_rate: source.sampleRate,
      original_hash: hash,
    })
    .returning<{ id: string }[]>('id');
  await enqueue(trx, 'intake', id);
  return id;
}

/**
 * Takes an uploaded mix as the next one of a track; its versions stay as they are. Throws a Problem when it cannot be
 * one.
 */
export async function receiveNextMix(
  db: Knex,
  accountId: string,
  trackId: string,
  sent: SentFile,
): Promise<{ mixId: string; number: number }> {
  await requireOwn(db, 'tracks', accountId, trackId, ['id']);
  return receive(db, accountId, sent, async (trx, mix) => {
    await requireOwn(trx, 'tracks', accountId, trackId, ['id'], { lock: true });
    const [{ max }] = await trx('mixes').where({ track_id: trackId }).max<{ max: number | null }[]>('number');
    const number = (max ?? 0) + 1;
    if (number > MAX_MIXES)
      throw new Problem(422, `A track has at most ${MAX_MIXES} mixes. Remove some, or start another track.`);
    return { mixId: await insertMix(trx, trackId, number, mix), number };
  });
}

/** Has another mix of the track used; its versions stay as they are. */
export async function chooseMix(db: Knex, accountId: string, trackId: string, mixId: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'tracks', accountId, trackId, ['id'], { lock: true });
    const mix = await trx('mixes')
      .where({ id: mixId, track_id: trackId, removed_at: null })
      .first<{ status: string; number: number } | undefined>('status', 'number');
    if (!mix) throw notFound('mix');
    if (mix.status !== 'ready')
      throw new Problem(409, `Mix ${mix.number} is not ready. Wait until its analysis is done.`);
    await trx('tracks').where({ id: trackId }).update({ mix_id: mixId });
  });
}

/**
 * Takes one of several mixes off its track: one that is ready can be restored, an analysis that is under way stops and
 * leaves nothing.
 */
export async function removeMix(db: Knex, accountId: string, mixId: string): Promise<void> {
  await db.transaction(async (trx) => {
    const columns = ['track_id', 'number', 'status'] as const;
    const row = await requireOwn<{ track_id: string; number: number; status: string }>(
      ...([trx, 'mixes', accountId, mixId, columns] as const),
    );
    await requireOwn(trx, 'tracks', accountId, row.track_id, ['id'], { lock: true });
    const [{ count }] = await trx('mixes')
      .where({ track_id: row.track_id, removed_at: null })
      .count<{ count: string }[]>('id');
    if (Number(count) === 1)
      throw new Problem(409, 'A track needs a mix. Upload another one first, or remove the track.');
    const delivered = await trx('deliveries').where({ mix_id: mixId }).first<{ id: string } | undefined>('id');
    if (delivered) throw new Problem(409, `Mix ${row.number} has deliveries and can’t be deleted.`);
    if (row.status === 'ready') await trx('mixes').where({ id: mixId }).update({ removed_at: trx.fn.now() });
    else await trx('mixes').where({ id: mixId }).delete();
  });
}

export interface WorkingFile {
  hash: string;
  format: 'flac' | 'wav';
  frames: number;
  /** Hz */
  sampleRate: number;
}

interface WorkingRow {
  working_hash: string | null;
  working_format: 'flac' | 'wav';
  frames: number | null;
  sample_rate: number;
  status: string;
}

/** The working file of a mix that is ready. Throws a Problem: 404 for another's, 409 while it is not ready. */
export async function workingFile(db: Knex, accountId: string, mixId: string): Promise<WorkingFile> {
  const columns = ['working_hash', 'working_format', 'frames', 'sample_rate', 'status'] as const;
  const row = await requireOwn<WorkingRow>(db, 'mixes', accountId, mixId, columns);
  if (row.status !== 'ready' || row.working_hash === null || row.frames === null)
    throw new Problem(409, 'This mix is still being analysed. Wait until its analysis is done.');
  return {
    hash: row.working_hash,
    format: row.working_format,
    frames: Number(row.frames),
    sampleRate: row.sample_rate,
  };
}
