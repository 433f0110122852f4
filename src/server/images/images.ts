import type { Knex } from 'knex';
import { z } from 'zod';
import type { ImageSummary, NewImage } from '../../contracts/image';
import { deliveredRate, destinationSchema, type Destination } from '../../core/deliver/destination';
import { driven } from '../../core/deliver/driven';
import { FORMAT_TRAITS } from '../../core/deliver/format';
import { tagsOf } from '../../core/deliver/tags';
import { laneSchema } from '../../core/lane/schema';
import { MOST_TRACKS } from '../../core/sequence/disc';
import { imageReceiptSchema } from '../../core/sequence/image-log';
import { jointSchema } from '../../core/sequence/joint';
import { deliveredName } from '../deliveries/delivered-name';
import { makerOf } from '../deliveries/deliveries';
import { requireDestination } from '../destinations/destinations';
import { enqueue } from '../jobs/queue';
import { requireOwn } from '../ownership';
import { Problem } from '../problem';
import { getRelease } from '../releases/releases';
import { deliveredBytesPerSecond, reserve } from '../store/reserve';
import { adjustmentFor } from '../versions/adjustments';
import { chosenVersions } from '../versions/chosen-version';
import { partsOf } from './image-parts';
import type { ImageOrder } from './make-image';

/** Version of the saved form of what an image is made from. */
const PROGRAMME_SCHEMA = 1;
/** Images of a release that are kept and listed; older ones are deleted. */
const MOST_IMAGES = 10;

/** Everything that was decided when an image was ordered: what is changed later does not change it. */
const programmeSchema = z.object({
  schema: z.literal(PROGRAMME_SCHEMA),
  ...{ title: z.string(), artist: z.string(), ean: z.string(), copyright: z.string(), year: z.number().nullable() },
  destination: destinationSchema,
  tracks: z
    .array(
      z.object({
        ...{ mixId: z.uuid(), title: z.string(), artist: z.string(), isrc: z.string() },
        ...{ version: z.string(), lane: laneSchema, levelDb: z.number(), joint: jointSchema },
      }),
    )
    .min(1)
    .max(MOST_TRACKS),
});
type Programme = z.infer<typeof programmeSchema>;

/** The destination of an image: one file of a format that holds samples as they are, without what is asked of single tracks. */
function imageDestination(settings: Destination, format: 'WAV' | 'FLAC'): Destination {
  return {
    ...settings,
    format: { ...settings.format, name: format, kbps: null },
    tags: null,
    duration: null,
    silence: null,
    encodes: [],
  };
}

/** Queues an image of a release as it is put together now. Throws a Problem: 404 for another's, 409 or 422 with a reason. */
export async function startImage(
  db: Knex,
  accountId: string,
  releaseId: string,
  { destinationId, format }: NewImage,
): Promise<{ id: string }> {
  return db.transaction(async (trx) => {
    await requireOwn(trx, 'releases', accountId, releaseId, ['id'], { lock: true });
    const release = await getRelease(trx, accountId, releaseId);
    const destination = imageDestination(await requireDestination(trx, releaseId, destinationId), format);
    if (release.tracks.length === 0)
      throw new Problem(409, 'There is no track in this release yet. Upload mixes first.');
    if (release.tracks.length > MOST_TRACKS)
      throw new Problem(422, `An image has at most ${MOST_TRACKS} tracks. Make two releases of this one.`);
    const waiting = release.tracks.find(({ mix }) => mix?.status !== 'ready');
    if (waiting)
      throw new Problem(
        409,
        `The mix of “${waiting.title}” is not ready. Wait until its analysis is done, or replace it.`,
      );
    const versions = await chosenVersions(
      trx,
      release.tracks.map(({ id }) => id),
    );
    const tracks: Programme['tracks'] = [];
    for (const { id, title, artist, isrc, joint, mix } of release.tracks) {
      const version = versions.get(id)!;
      const { levelDb, driveDb } = await adjustmentFor(trx, version.id, destinationId);
      const lane = driven(version.lane, driveDb);
      if (!lane)
        throw new Problem(422, `The lane of “${title}” has no limiter that can be driven by ${driveDb} dB any more.`);
      tracks.push({
        ...{ mixId: mix!.id, title, artist: artist || release.artist, isrc, joint },
        ...{ version: version.name, lane, levelDb },
      });
    }
    const { title, artist, ean, copyright, year } = release;
    const programme: Programme = {
      ...{ schema: PROGRAMME_SCHEMA, title, artist, ean, copyright, year, destination, tracks },
    };
    const values = { artist, release: title, destination: destination.name, title: 'image', ean };
    const reserved = await reserve(
      trx,
      accountId,
      tracks.map(({ mixId }) => mixId),
      (rate) => deliveredBytesPerSecond(destination, rate),
    );
    const [{ id }] = await trx('images')
      .insert({
        reserved_bytes: reserved,
        release_id: releaseId,
        programme: JSON.stringify(programme),
        file_name: deliveredName('{artist} - {release} {title} ({destination})', values, destination),
      })
      .returning<{ id: string }[]>('id');
    await enqueue(trx, 'image', id);
    const kept = trx('images').where({ release_id: releaseId }).orderBy('created_at', 'desc').limit(MOST_IMAGES);
    await trx('images').where({ release_id: releaseId }).whereNotIn('id', kept.select('id')).delete();
    return { id };
  });
}

interface OrderRow {
  programme: unknown;
  fileName: string;
  createdAt: Date;
  accountId: string;
  coverHash: string | null;
  coverType: string | null;
}

/** What a worker needs to make an image; undefined when it is gone. */
export async function imageOrder(db: Knex, id: string): Promise<ImageOrder | undefined> {
  const row = await db('images as i')
    .join('releases as r', 'r.id', 'i.release_id')
    .where('i.id', id)
    .first<OrderRow | undefined>(
      ...['i.programme', 'i.file_name as fileName', 'i.created_at as createdAt', 'r.account_id as accountId'],
      ...['r.cover_hash as coverHash', 'r.cover_type as coverType'],
    );
  if (!row) return undefined;
  const programme = programmeSchema.parse(row.programme);
  const { destination, title, artist, ean, copyright, year } = programme;
  const parts = await partsOf(db, row.accountId, programme.tracks);
  if (!parts) return undefined;
  return {
    ...{ title, artist, ean, parts, destination, fileName: row.fileName },
    // One rate for all: where the destination leaves it to the mixes, the highest of theirs.
    sampleRate: Math.max(...parts.map(({ mix }) => deliveredRate(destination, mix.sampleRate))),
    by: await makerOf(db, row.accountId),
    tags: tagsOf({
      ...{ title, position: 1, tracks: 1, trackArtist: '', isrc: '', composer: '', trackCopyright: '' },
      ...{ release: title, releaseArtist: artist, releaseCopyright: copyright, ean, year },
    }),
    cover: row.coverHash && row.coverType ? { sha256: row.coverHash, type: row.coverType } : null,
    madeAt: row.createdAt.toISOString(),
  };
}

const COLUMNS = [
  ...['id', 'status', 'progress', 'problem', 'held_because as heldBecause', 'file_name as fileName'],
  ...['receipt', 'created_at as createdAt'],
];

/** Images of a release, the newest first. Throws a Problem (404) for another's. */
export async function listImages(db: Knex, accountId: string, releaseId: string): Promise<ImageSummary[]> {
  await requireOwn(db, 'releases', accountId, releaseId, ['id']);
  const rows = await db('images')
    .where({ release_id: releaseId })
    .orderBy('created_at', 'desc')
    .select<(Omit<ImageSummary, 'createdAt'> & { createdAt: Date })[]>(COLUMNS);
  return rows.map(({ receipt, createdAt, ...image }) => ({
    ...image,
    receipt: receipt && imageReceiptSchema.parse(receipt),
    createdAt: createdAt.toISOString(),
  }));
}

/** A finished image. Throws a Problem: 404 for another's, 409 while it has no file. */
export async function finishedImage(db: Knex, accountId: string, id: string) {
  const row = await requireOwn<{ file_hash: string | null; file_name: string; receipt: unknown }>(
    ...([db, 'images', accountId, id, ['file_hash', 'file_name', 'receipt']] as const),
  );
  if (row.file_hash === null) throw new Problem(409, 'This image has no file: it is not finished, or it failed.');
  const receipt = imageReceiptSchema.parse(row.receipt);
  return { hash: row.file_hash, fileName: row.file_name, receipt };
}

/** MIME type of an image. */
export function imageType(fileName: string): string {
  return FORMAT_TRAITS[fileName.endsWith('.flac') ? 'FLAC' : 'WAV'].type;
}

/** Deletes an image, or calls it off while it is made. */
export async function removeImage(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    await requireOwn(trx, 'images', accountId, id, ['id'], { lock: true });
    await trx('images').where({ id }).delete();
  });
}
