import { rm } from 'node:fs/promises';
import path from 'node:path';
import type { Knex } from 'knex';
import type { Reference, ReferenceReport } from '../../contracts/reference';
import { probeReference, type ReferenceSource } from '../codecs/probe';
import { getConfig } from '../config';
import { isDiskFull } from '../failures';
import type { StoredAudio } from '../http/float-audio';
import type { SentFile } from '../http/upload';
import { enqueue } from '../jobs/queue';
import { requireOwn } from '../ownership';
import { diskFull, Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import { requireRoomFor } from '../store/room';

/** References of an account. */
const MOST_REFERENCES = 200;
const MOST_TITLE = 120;

interface ReferenceRow {
  id: string;
  title: string;
  file_name: string;
  source: ReferenceSource;
  status: Reference['status'];
  progress: number;
  refusal: string | null;
  report: ReferenceReport | null;
  created_at: Date;
}

const COLUMNS = [
  'id',
  'title',
  'file_name',
  'source',
  'status',
  'progress',
  'refusal',
  'report',
  'created_at',
] as const;

function referenceOf({ file_name, created_at, ...row }: ReferenceRow): Reference {
  return { ...row, fileName: file_name, createdAt: created_at.toISOString() };
}

/** The shelf of an account, by title. */
export async function listReferences(db: Knex, accountId: string): Promise<Reference[]> {
  const rows = await db('reference_tracks')
    .where({ account_id: accountId, removed_at: null })
    .orderBy(['title', 'created_at'])
    .select<ReferenceRow[]>(...COLUMNS);
  return rows.map(referenceOf);
}

/** Takes an uploaded file as a reference. Throws a Problem with the reason when it can't be one; nothing is kept then. */
export async function receiveReference(
  db: Knex,
  accountId: string,
  { fileName, body, announcedBytes }: SentFile,
): Promise<Reference> {
  const { maxUploadBytes } = getConfig();
  const store = audioStore(db);
  await requireRoomFor(db, store, accountId, announcedBytes ?? 0);
  const received = await store.receive(body, maxUploadBytes).catch((error: unknown) => {
    if (error instanceof Problem) throw error;
    if (isDiskFull(error)) throw diskFull();
    throw new Problem(400, `The upload of ${fileName} was interrupted. Nothing was kept; upload it again.`);
  });
  try {
    if (received.bytes === 0) throw new Problem(422, `${fileName} is empty. Choose another file.`);
    const source = await probeReference(received.file);
    await store.adopt(received.file, received.hash);
    return await db.transaction(async (trx) => {
      const [{ count }] = await trx('reference_tracks')
        .where({ account_id: accountId, removed_at: null })
        .count<{ count: string }[]>('id');
      if (Number(count) >= MOST_REFERENCES)
        throw new Problem(422, `A shelf has at most ${MOST_REFERENCES} references. Delete one first.`);
      const title = path.basename(fileName, path.extname(fileName)).replace(/_+/g, ' ').trim().slice(0, MOST_TITLE);
      const [row] = await trx('reference_tracks')
        .insert({
          ...{ account_id: accountId, title: title || 'Untitled', file_name: fileName },
          ...{ file_hash: received.hash, source: JSON.stringify(source) },
        })
        .returning<ReferenceRow[]>([...COLUMNS]);
      await enqueue(trx, 'reference', row.id);
      return referenceOf(row);
    });
  } catch (error) {
    await rm(received.file, { force: true });
    throw error;
  }
}

export async function renameReference(db: Knex, accountId: string, id: string, title: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'reference_tracks', accountId, id, ['id'], { lock: true });
    await trx('reference_tracks').where({ id }).update({ title });
  });
}

/** Takes a reference off the shelf; it can be restored. */
export async function removeReference(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'reference_tracks', accountId, id, ['id'], { lock: true });
    await trx('reference_tracks').where({ id }).update({ removed_at: trx.fn.now() });
  });
}

/** What is played of a reference. Throws a Problem: 404 for another's, 409 while it is not measured. */
export async function referenceAudio(db: Knex, accountId: string, id: string): Promise<StoredAudio> {
  const columns = ['file_hash', 'source', 'report'] as const;
  const row = await requireOwn<{ file_hash: string; source: ReferenceSource; report: ReferenceReport | null }>(
    ...([db, 'reference_tracks', accountId, id, columns] as const),
  );
  if (!row.report) throw new Problem(409, 'This reference is still being measured. Wait until that is done.');
  const { frames, sampleRate } = row.report;
  return { hash: row.file_hash, frames, sampleRate, channels: row.source.channels, accepts: 'lossy' };
}
