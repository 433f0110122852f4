import { readFile, rm } from 'node:fs/promises';
import { imageSize } from 'image-size';
import type { Knex } from 'knex';
import { isDiskFull } from '../failures';
import type { SentFile } from '../http/upload';
import { requireOwn } from '../ownership';
import { diskFull, notFound, Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import { requireRoomFor } from '../store/room';

const MOST_BYTES = 10 * 2 ** 20;
/** Shortest and longest edge in pixels. */
const EDGES = [300, 6000] as const;
const TYPES: Record<string, string> = { jpg: 'image/jpeg', png: 'image/png' };

/** MIME type of a picture by its bytes. Throws a Problem (422) with the reason when it can’t be a cover. */
async function typeOf(file: string, name: string): Promise<string> {
  const read = async () => imageSize(await readFile(file));
  const size = await read().catch(() => null);
  const type = size?.type && Object.hasOwn(TYPES, size.type) ? TYPES[size.type] : null;
  if (!size || !type) throw new Problem(422, `${name} is not a JPEG or PNG picture. Choose another file.`);
  const [least, most] = EDGES;
  if (Math.min(size.width, size.height) < least || Math.max(size.width, size.height) > most)
    throw new Problem(
      422,
      `${name} has ${size.width} × ${size.height} pixels. A cover has from ${least} to ${most} on each edge.`,
    );
  return type;
}

/** Takes an uploaded picture as the cover of a release. Throws a Problem with the reason; nothing is kept then. */
export async function receiveCover(
  db: Knex,
  accountId: string,
  releaseId: string,
  { fileName, body, announcedBytes }: SentFile,
): Promise<void> {
  await requireOwn(db, 'releases', accountId, releaseId, ['id']);
  if ((announcedBytes ?? 0) > MOST_BYTES)
    throw new Problem(413, `${fileName} is larger than ${MOST_BYTES / 2 ** 20} MB. Export the picture smaller.`);
  const store = audioStore(db);
  await requireRoomFor(db, store, accountId, announcedBytes ?? MOST_BYTES);
  const received = await store.receive(body, MOST_BYTES).catch((error: unknown) => {
    if (error instanceof Problem) throw error;
    if (isDiskFull(error)) throw diskFull();
    throw new Problem(400, `The upload of ${fileName} was interrupted. Nothing was kept; upload it again.`);
  });
  try {
    const type = await typeOf(received.file, fileName);
    await store.adopt(received.file, received.hash);
    await db.transaction(async (trx) => {
      await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
      await trx('releases').where({ id: releaseId }).update({ cover_hash: received.hash, cover_type: type });
    });
  } catch (error) {
    await rm(received.file, { force: true });
    throw error;
  }
}

/** Hash and MIME type of the cover of a release. Throws a Problem (404) for another's, and without a cover. */
export async function coverOf(db: Knex, accountId: string, releaseId: string): Promise<{ hash: string; type: string }> {
  const columns = ['cover_hash', 'cover_type'] as const;
  const row = await requireOwn<{ cover_hash: string | null; cover_type: string | null }>(
    ...([db, 'releases', accountId, releaseId, columns] as const),
  );
  if (!row.cover_hash || !row.cover_type) throw notFound('cover');
  return { hash: row.cover_hash, type: row.cover_type };
}

/** Takes the cover away; the store's sweep removes its file. */
export async function removeCover(db: Knex, accountId: string, releaseId: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
    await trx('releases').where({ id: releaseId }).update({ cover_hash: null, cover_type: null });
  });
}
