import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import path from 'node:path';
import { FileStore } from '@tus/file-store';
import { MemoryLocker, Server } from '@tus/server';
import type { Knex } from 'knex';
import { z } from 'zod';
import { trackParticularsSchema } from '../contracts/release';
import { getConfig } from './config';
import { body } from './http/body';
import { fileNameOf, sentFile, type SentFile } from './http/upload';
import { isDiskFull } from './failures';
import { diskFull, Problem } from './problem';
import { audioStore, storeFolder } from './store/audio-store';
import { forgetEndedUploads, requireRoom, requireRoomFor, UPLOADS } from './store/room';

/** Where uploads are sent to, in pieces. */
const UPLOADS_PATH = '/api/uploads';
/** An upload that nobody goes on with is forgotten after this long. */
const KEPT_MS = 24 * 3600 * 1000;
const ID = /^([0-9a-f-]{36})\.[0-9a-f-]{36}$/;
/** Uploads that an account may have begun and not finished. */
const MOST_UNFINISHED = 20;
/** Uploads of all accounts are begun one after another, so that no two count on the same room (a number of our own). */
const BEGINNING_LOCK = 3400_019;

function idOf(request: Request): string {
  return new URL(request.url).pathname.split('/').at(-1) ?? '';
}

function folder(): string {
  return path.join(storeFolder(), UPLOADS);
}

// One of each for the process: pieces of one upload that arrive together take turns.
const holder = globalThis as { copperUploads?: FileStore; copperUploadLocks?: MemoryLocker };

function uploads(): FileStore {
  holder.copperUploads ??= new FileStore({ directory: folder(), expirationPeriodInMilliseconds: KEPT_MS });
  return holder.copperUploads;
}

/** The tus library turns these two fields into its answer. */
function refusal({ status, message }: Problem): { status_code: number; body: string } {
  return { status_code: status, body: JSON.stringify({ error: message }) };
}

/** Throws a Problem (404) unless an upload's identifier is one that this account was given. */
function requireOwnUpload(accountId: string, id: string): void {
  if (ID.exec(id)?.[1] !== accountId)
    throw new Problem(404, 'This upload does not exist, or has expired. Start it again.');
}

/** Begins an upload of an account, and holds the room for it. Throws a Problem: 413, 429 or 507. */
async function beginUpload(db: Knex, accountId: string, id: string, bytes: number): Promise<void> {
  await db.transaction(async (trx) => {
    await trx.raw('select pg_advisory_xact_lock(?)', [BEGINNING_LOCK]);
    await forgetEndedUploads(trx, audioStore(trx));
    const [{ count }] = await trx('uploads').where({ account_id: accountId }).count<{ count: string }[]>('id');
    if (Number(count) >= MOST_UNFINISHED)
      throw new Problem(
        429,
        `${MOST_UNFINISHED} uploads of this account are not finished. Finish or cancel one of them; those that nobody goes on with are removed after a day.`,
        { retryAfterSeconds: 60 },
      );
    await requireRoomFor(trx, audioStore(trx), accountId, bytes);
    await trx('uploads').insert({ id, account_id: accountId, bytes });
  });
}

/**
 * Answers the requests of a resumable upload (the tus protocol, version 1): an upload is created with its length, filled
 * piece by piece, asked about after an interruption, and ended. What is done with the file comes after, see {@link withSentFile}.
 */
export async function answerUpload(db: Knex, accountId: string, request: Request): Promise<Response> {
  await audioStore(db).ready();
  const { maxUploadBytes } = getConfig();
  const server = new Server({
    path: UPLOADS_PATH,
    datastore: uploads(),
    locker: (holder.copperUploadLocks ??= new MemoryLocker()),
    relativeLocation: true,
    namingFunction: () => `${accountId}.${randomUUID()}`,
    onIncomingRequest: (_, id) => Promise.resolve().then(() => requireOwnUpload(accountId, id)),
    onUploadCreate: async (_, { id, size }) => {
      if (size === undefined) throw new Problem(422, 'The upload does not say how long the file is.');
      if (size === 0) throw new Problem(422, 'The file is empty. Export the mix again and upload it again.');
      if (size > maxUploadBytes)
        throw new Problem(
          413,
          `The file is larger than ${Math.round(maxUploadBytes / 1048576)} MB, the maximum for a mix.`,
        );
      await beginUpload(db, accountId, id, size);
      return {};
    },
    onResponseError: (_, error) => {
      if (error instanceof Problem) return refusal(error);
      return error instanceof Error && isDiskFull(error) ? refusal(diskFull()) : undefined;
    },
  });
  // What has grown since then, of this account or any other program, may have taken the room.
  if (request.method === 'PATCH') await requireRoom(audioStore(db), Number(request.headers.get('content-length') ?? 0));
  const answer = await server.handleWeb(request);
  if (request.method === 'DELETE' && answer.ok)
    await db('uploads')
      .where({ id: idOf(request) })
      .delete();
  return answer;
}

/** A whole upload as a file that was sent. Throws a Problem: 404 for another's, 409 while bytes are missing. */
async function sentUpload(accountId: string, id: string, name: string): Promise<SentFile> {
  requireOwnUpload(accountId, id);
  const fileName = fileNameOf(name);
  const upload = await uploads()
    .getUpload(id)
    .catch(() => {
      throw new Problem(404, 'This upload does not exist, or has expired. Start it again.');
    });
  if (upload.size === undefined || upload.offset !== upload.size)
    throw new Problem(
      409,
      `Only ${upload.offset} of ${upload.size ?? 'an unknown number of'} bytes of ${fileName} have arrived. Finish the upload first.`,
    );
  return {
    fileName,
    body: createReadStream(path.join(folder(), id)),
    announcedBytes: upload.size,
    heldBytes: upload.size,
  };
}

/** Forgets an upload, once its file has been taken or refused. */
async function forgetUpload(db: Knex, id: string): Promise<void> {
  await uploads()
    .remove(id)
    .catch(() => {});
  await rm(path.join(folder(), id), { force: true });
  await db('uploads').where({ id }).delete();
}

const sentUploadSchema = z.strictObject({
  upload: z.string().max(80),
  name: z.string().max(1000),
  title: trackParticularsSchema.shape.title.optional(),
});

/**
 * Does something with the file that a request brings: JSON names a whole upload, anything else is the file itself. An upload
 * whose file was taken, or refused for what it is, is forgotten; after a fault of the server it can be taken again.
 */
export async function withSentFile<T>(
  db: Knex,
  accountId: string,
  request: Request,
  take: (sent: SentFile) => Promise<T>,
): Promise<T> {
  if (!request.headers.get('content-type')?.startsWith('application/json')) return take(sentFile(request));
  const { upload, name, title } = await body(request, sentUploadSchema);
  const sent = { ...(await sentUpload(accountId, upload, name)), title };
  try {
    const taken = await take(sent);
    await forgetUpload(db, upload);
    return taken;
  } catch (error) {
    if (error instanceof Problem && error.status < 500) await forgetUpload(db, upload);
    throw error;
  }
}

/** Removes what nobody went on with. */
export async function forgetStaleUploads(db: Knex): Promise<number> {
  const removed = await uploads().deleteExpired();
  await forgetEndedUploads(db, audioStore(db));
  return removed;
}
