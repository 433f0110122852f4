import { rm } from 'node:fs/promises';
import path from 'node:path';
import type { Knex } from 'knex';
import { EMPTY_LANE } from '../../core/lane/schema';
import type { Source } from '../codecs/probe';
import { getConfig } from '../config';
import { database } from '../database/connection';
import { inspect } from '../intake/take-in';
import { enqueue } from '../jobs/queue';
import type { SentFile } from '../http/upload';
import { diskFull, isDiskFull, notFound, Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import { requireRoomFor } from '../store/room';
import { ownRelease } from '../releases/releases';

const MAX_TRACKS = 200;
export const MAX_MIXES = 99;

/** A readable title from a file's name. */
export function titleFrom(fileName: string): string {
  const base = path.basename(fileName, path.extname(fileName)).replace(/_+/g, ' ').trim();
  return base.slice(0, 120) || 'Untitled';
}

/** An uploaded file that may be a mix, whole and in the store. */
interface ReceivedMix {
  fileName: string;
  source: Source;
  hash: string;
}

/**
 * Receives a file and looks at it, then has `keep` write its rows. Throws a Problem with the reason when the file cannot be
 * a mix, arrived cut off or finds no room; nothing is kept then.
 */
async function receive<Result>(
  accountId: string,
  { fileName, body, announcedBytes }: SentFile,
  keep: (trx: Knex, mix: ReceivedMix) => Promise<Result>,
): Promise<Result> {
  const { maxUploadBytes } = getConfig();
  if (announcedBytes !== null && announcedBytes > maxUploadBytes) {
    throw new Problem(
      413,
      `${fileName} is larger than ${Math.round(maxUploadBytes / 1048576)} MB, the maximum for a mix.`,
    );
  }
  const store = audioStore();
  await requireRoomFor(database(), store, accountId, announcedBytes ?? 0);
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
    return await database().transaction((trx) => keep(trx, { fileName, source, hash: received.hash }));
  } catch (error) {
    await rm(received.file, { force: true });
    throw error;
  }
}

/** Writes a mix of a track and queues its intake. */
async function insertMix(
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

/** Takes an uploaded mix as a new track of a release. Throws a Problem when it cannot be one. */
export async function receiveTrack(
  accountId: string,
  releaseId: string,
  sent: SentFile,
): Promise<{ trackId: string; mixId: string }> {
  await ownRelease(accountId, releaseId);
  return receive(accountId, sent, async (trx, mix) => {
    // The release's row serializes uploads that arrive together, so that each gets a place of its own.
    await trx('releases').where({ id: releaseId }).forUpdate().first('id');
    const [{ count }] = await trx('tracks').where({ release_id: releaseId }).count<{ count: string }[]>('id');
    if (Number(count) >= MAX_TRACKS)
      throw new Problem(422, `A release has at most ${MAX_TRACKS} tracks. Start another release.`);
    const last = await trx('tracks').where({ release_id: releaseId }).max<{ max: number | null }[]>('position');
    const [track] = await trx('tracks')
      .insert({ release_id: releaseId, position: (last[0].max ?? 0) + 1, title: titleFrom(sent.fileName) })
      .returning<{ id: string }[]>('id');
    const [version] = await trx('versions')
      .insert({ track_id: track.id, name: 'First version' })
      .returning<{ id: string }[]>('id');
    await trx('edits').insert({
      version_id: version.id,
      sequence: 0,
      label: 'Start',
      lane: JSON.stringify(EMPTY_LANE),
    });
    return { trackId: track.id, mixId: await insertMix(trx, track.id, 1, mix) };
  });
}

/** Takes an uploaded mix as the next one of a track; its versions stay as they are. Throws a Problem when it cannot be one. */
export async function receiveNextMix(
  accountId: string,
  trackId: string,
  sent: SentFile,
): Promise<{ mixId: string; number: number }> {
  await lockOwnTrack(database(), accountId, trackId);
  return receive(accountId, sent, async (trx, mix) => {
    await lockOwnTrack(trx, accountId, trackId);
    const [{ max }] = await trx('mixes').where({ track_id: trackId }).max<{ max: number | null }[]>('number');
    const number = (max ?? 0) + 1;
    if (number > MAX_MIXES)
      throw new Problem(422, `A track has at most ${MAX_MIXES} mixes. Remove some, or start another track.`);
    return { mixId: await insertMix(trx, trackId, number, mix), number };
  });
}

/** Throws a Problem (404) unless the track belongs to the account; within a transaction nothing else changes it meanwhile. */
async function lockOwnTrack(trx: Knex, accountId: string, trackId: string): Promise<void> {
  const row = await trx('tracks as t')
    .join('releases as r', 'r.id', 't.release_id')
    .where({ 't.id': trackId, 'r.account_id': accountId })
    .forUpdate('t')
    .first<{ id: string } | undefined>('t.id');
  if (!row) throw notFound('track');
}

/** Has another mix of the track used; its versions stay as they are. */
export async function chooseMix(accountId: string, trackId: string, mixId: string): Promise<void> {
  await database().transaction(async (trx) => {
    await lockOwnTrack(trx, accountId, trackId);
    const mix = await trx('mixes')
      .where({ id: mixId, track_id: trackId })
      .first<{ status: string; number: number } | undefined>('status', 'number');
    if (!mix) throw notFound('mix');
    if (mix.status !== 'ready')
      throw new Problem(409, `Mix ${mix.number} is not ready. Wait until its analysis is done.`);
    await trx('tracks').where({ id: trackId }).update({ mix_id: mixId });
  });
}

/** Takes one of several mixes off its track; a running analysis stops. The store's sweep removes its files. */
export async function removeMix(accountId: string, mixId: string): Promise<void> {
  await database().transaction(async (trx) => {
    const row = await trx('mixes')
      .where({ id: mixId })
      .first<{ track_id: string; number: number } | undefined>('track_id', 'number');
    if (!row) throw notFound('mix');
    await lockOwnTrack(trx, accountId, row.track_id).catch((error: unknown) => {
      throw error instanceof Problem ? notFound('mix') : error;
    });
    const [{ count }] = await trx('mixes').where({ track_id: row.track_id }).count<{ count: string }[]>('id');
    if (Number(count) === 1)
      throw new Problem(409, 'A track needs a mix. Upload another one first, or remove the track.');
    const delivered = await trx('deliveries').where({ mix_id: mixId }).first<{ id: string } | undefined>('id');
    if (delivered) throw new Problem(409, `Mix ${row.number} has deliveries and can’t be deleted.`);
    await trx('mixes').where({ id: mixId }).delete();
  });
}

export interface WorkingFile {
  hash: string;
  format: 'flac' | 'wav';
}

/** The working file of a mix that is ready. Throws a Problem: 404 for another's, 409 while it is not ready. */
export async function workingFile(accountId: string, mixId: string): Promise<WorkingFile> {
  const row = await database()('mixes as m')
    .join('tracks as t', 't.id', 'm.track_id')
    .join('releases as r', 'r.id', 't.release_id')
    .where({ 'm.id': mixId, 'r.account_id': accountId })
    .first<{ hash: string | null; format: 'flac' | 'wav'; status: string } | undefined>(
      'm.working_hash as hash',
      'm.working_format as format',
      'm.status',
    );
  if (!row) throw notFound('mix');
  if (row.status !== 'ready' || row.hash === null)
    throw new Problem(409, 'This mix is still being analysed. Wait until its analysis is done.');
  return { hash: row.hash, format: row.format };
}

/** Takes a track with everything of it off its release; a running analysis or delivery stops. The store's sweep removes its files. */
export async function removeTrack(accountId: string, trackId: string): Promise<void> {
  await database().transaction(async (trx) => {
    await lockOwnTrack(trx, accountId, trackId);
    await trx('deliveries').where({ track_id: trackId }).delete();
    await trx('tracks').where({ id: trackId }).delete();
  });
}
