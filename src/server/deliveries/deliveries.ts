import type { Knex } from 'knex';
import { destinationSchema, type Destination } from '../../core/deliver/destination';
import { driven } from '../../core/deliver/driven';
import { FORMAT_TRAITS } from '../../core/deliver/format';
import { parseLane } from '../../core/lane/schema';
import { placeInMix } from '../../core/sequence/edges';
import type { Source } from '../codecs/probe';
import { tagsOf } from '../../core/deliver/tags';
import { settingsOf } from '../accounts/settings';
import { enqueue } from '../jobs/queue';
import type { StoredAudio } from '../http/float-audio';
import { notFound, Problem } from '../problem';
import { mixInUse } from '../mixes/mix-list';
import { requireDestination } from '../destinations/destinations';
import { requireOwn } from '../ownership';
import { impulsesOf } from '../impulses/impulses';
import type { DeliverySummary, LatestDelivery, NewDeliveries, NewDelivery } from '../../contracts/delivery';
import { adjustmentFor, keepAdjustment } from '../versions/adjustments';
import { deliveredBytesPerSecond, reserve } from '../store/reserve';
import { deliveredName } from './delivered-name';
import type { DeliveryOrder } from '../render/delivery';

interface TrackRow {
  title: string;
  position: number;
  artist: string;
  isrc: string;
  release_id: string;
}

interface ReleaseRow {
  title: string;
  artist: string;
  ean: string;
  year: number | null;
}

/** Queues a delivery of the mix that a track is used with, through a version's lane as it stands now. */
export async function startDelivery(
  db: Knex,
  accountId: string,
  trackId: string,
  asked: NewDelivery,
): Promise<{ id: string }> {
  return db.transaction((trx) => queueDelivery(trx, accountId, trackId, asked));
}

/** Queues deliveries of tracks of a release: all of them, or none when one is not possible. */
export async function startDeliveries(
  db: Knex,
  accountId: string,
  releaseId: string,
  { deliveries }: NewDeliveries,
): Promise<{ id: string }[]> {
  return db.transaction(async (trx) => {
    await requireOwn(trx, 'releases', accountId, releaseId, ['id']);
    const tracks = new Set(
      await trx('tracks').where({ release_id: releaseId, removed_at: null }).pluck<string[]>('id'),
    );
    const started: { id: string }[] = [];
    for (const { trackId, ...asked } of deliveries) {
      if (!tracks.has(trackId)) throw notFound('track');
      started.push(await queueDelivery(trx, accountId, trackId, asked));
    }
    return started;
  });
}

async function queueDelivery(
  trx: Knex,
  accountId: string,
  trackId: string,
  { destinationId, versionId, dither, digitalSilence, ...asked }: NewDelivery,
): Promise<{ id: string }> {
  const track = await requireOwn<TrackRow>(trx, 'tracks', accountId, trackId, [
    ...(['title', 'position', 'artist', 'isrc', 'release_id'] as const),
  ]);
  const release = await requireOwn<ReleaseRow>(trx, 'releases', accountId, track.release_id, [
    ...(['title', 'artist', 'ean', 'year'] as const),
  ]);
  const mix = await mixInUse(trx, trackId);
  if (mix?.status !== 'ready')
    throw new Problem(409, 'The mix of this track is not ready. Wait until its analysis is done.');
  const settings = await requireDestination(trx, track.release_id, destinationId);
  const { wordLength } = settings;
  const destination: Destination = {
    ...settings,
    wordLength: {
      ...wordLength,
      dither: dither ?? wordLength.dither,
      digitalSilence: digitalSilence ?? wordLength.digitalSilence,
    },
  };
  const lane = await trx('edits as e')
    .join('versions as v', (join) => join.on('v.id', 'e.version_id').andOn('v.current', 'e.sequence'))
    .where({ 'v.id': versionId, 'v.track_id': trackId, 'v.removed_at': null })
    .first<{ lane: unknown; name: string } | undefined>('e.lane', 'v.name');
  if (!lane) throw notFound('version');
  const kept = await adjustmentFor(trx, versionId, destinationId);
  const levelDb = asked.levelDb ?? kept.levelDb;
  const driveDb = asked.driveDb ?? kept.driveDb;
  const used = driven(parseLane(lane.lane), driveDb);
  if (!used)
    throw new Problem(
      422,
      `The lane of “${lane.name}” has no limiter that can be driven by ${driveDb} dB. Change the drive for ${destination.name}, or the limiter.`,
    );
  await keepAdjustment(trx, versionId, destinationId, { levelDb, driveDb });
  const reserved = await reserve(trx, accountId, [mix.id], (rate) => deliveredBytesPerSecond(destination, rate));
  const { fileNamePattern } = await settingsOf(trx, accountId);
  const values = {
    artist: track.artist || release.artist,
    release: release.title,
    position: String(track.position).padStart(2, '0'),
    title: track.title,
    destination: destination.name,
    version: lane.name,
    isrc: track.isrc,
    ean: release.ean,
    year: release.year === null ? '' : String(release.year),
  };
  const [{ id }] = await trx('deliveries')
    .insert({
      track_id: trackId,
      mix_id: mix.id,
      version_id: versionId,
      destination: JSON.stringify(destination),
      lane: JSON.stringify(used),
      level_db: levelDb,
      drive_db: driveDb,
      file_name: deliveredName(fileNamePattern, values, destination),
      reserved_bytes: reserved,
    })
    .returning<{ id: string }[]>('id');
  await enqueue(trx, 'deliver', id);
  return { id };
}

interface OrderRow {
  destination: unknown;
  lane: unknown;
  levelDb: number;
  driveDb: number;
  fileName: string;
  mixName: string;
  originalHash: string;
  workingHash: string;
  sampleRate: number;
  source: Source;
  frames: string;
  bitsUsed: string | null;
  createdAt: Date;
  title: string;
  position: number;
  release: string;
  artist: string;
  trackArtist: string;
  isrc: string;
  composer: string;
  copyright: string;
  releaseCopyright: string;
  ean: string;
  tracks: string;
  coverHash: string | null;
  coverType: string | null;
  year: number | null;
  version: string | null;
  accountId: string;
}

/** What a worker needs to render a delivery; undefined when it is gone. */
export async function deliveryOrder(db: Knex, id: string): Promise<DeliveryOrder | undefined> {
  const row = await db('deliveries as d')
    .join('mixes as m', 'm.id', 'd.mix_id')
    .join('tracks as t', 't.id', 'd.track_id')
    .join('releases as r', 'r.id', 't.release_id')
    .leftJoin('versions as v', 'v.id', 'd.version_id')
    .where('d.id', id)
    .first<OrderRow | undefined>(
      ...['d.destination', 'd.lane', 'd.level_db as levelDb', 'd.drive_db as driveDb', 'd.file_name as fileName'],
      'm.file_name as mixName',
      ...[
        'm.original_hash as originalHash',
        'm.working_hash as workingHash',
        'm.sample_rate as sampleRate',
        'm.source',
      ],
      ...['m.frames', 't.title', 't.position', 'r.title as release', 'r.artist', 'v.name as version'],
      ...[
        't.artist as trackArtist',
        't.isrc',
        't.composer',
        't.copyright',
        'r.copyright as releaseCopyright',
        'r.year',
        'r.ean',
      ],
      ...['r.account_id as accountId', 'r.cover_hash as coverHash', 'r.cover_type as coverType'],
      'd.created_at as createdAt',
      db.raw(`m.findings ->> 'bitsUsed' as "bitsUsed"`) as never,
      db.raw('(select count(*) from tracks x where x.release_id = r.id and x.removed_at is null) as tracks') as never,
    );
  if (!row) return undefined;
  const lane = parseLane(row.lane);
  const { mixName, originalHash, workingHash, sampleRate, source, coverHash, coverType } = row;
  const impulses = await impulsesOf(db, row.accountId, lane);
  return {
    mix: {
      fileName: mixName,
      originalHash,
      sampleRate,
      bits: source.float ? 32 : source.bits,
      bitsUsed: row.bitsUsed === null ? null : Number(row.bitsUsed),
      channels: 2,
      frames: Number(row.frames),
    },
    workingHash,
    lane,
    impulses,
    impulseHashes: Object.fromEntries(Object.entries(impulses).map(([name, { hash }]) => [name, hash])),
    versionName: row.version ?? 'removed version',
    destination: destinationSchema.parse(row.destination),
    // The column is single precision; the interface sets tenths.
    levelDb: Math.round(row.levelDb * 10) / 10,
    driveDb: row.driveDb,
    fileName: row.fileName,
    by: await makerOf(db, row.accountId),
    tags: tagsOf({ ...row, tracks: Number(row.tracks), releaseArtist: row.artist, trackCopyright: row.copyright }),
    cover: coverHash && coverType ? { sha256: coverHash, type: coverType } : null,
    madeAt: row.createdAt.toISOString(),
  };
}

/** Who answers for a delivery, as its receipt names them. */
export async function makerOf(db: Knex, accountId: string): Promise<DeliveryOrder['by']> {
  const { studio, engineer } = await settingsOf(db, accountId);
  return { studio, engineer };
}

/** Deliveries of a track that are listed. */
const DELIVERIES_SHOWN = 100;

/** Deliveries that match, the newest first. */
export async function listDeliveries(db: Knex, where: Record<string, string>): Promise<DeliverySummary[]> {
  return db('deliveries as d')
    .join('tracks as t', 't.id', 'd.track_id')
    .join('releases as r', 'r.id', 't.release_id')
    .where(where)
    .orderBy('d.created_at', 'desc')
    .limit(DELIVERIES_SHOWN)
    .select<DeliverySummary[]>(
      ...[
        'd.id',
        'd.track_id as trackId',
        't.title as trackTitle',
        'r.id as releaseId',
        'r.title as releaseTitle',
        'd.status',
        'd.progress',
        'd.problem',
        'd.held_because as heldBecause',
        'd.destination',
        'd.level_db as levelDb',
        'd.drive_db as driveDb',
        'd.desk_answer as deskAnswer',
      ],
      ...['d.file_name as fileName', 'd.receipt', 'd.created_at as createdAt', 'd.finished_at as finishedAt'],
    );
}

/** The newest delivery of each track to each destination, by track; cancelled ones don't count. */
export async function latestDeliveries(db: Knex, trackIds: string[]): Promise<Map<string, LatestDelivery[]>> {
  const name = db.raw(`destination ->> 'name'`);
  const rows = await db('deliveries')
    .whereIn('track_id', trackIds)
    .whereNot('status', 'cancelled')
    .distinctOn('track_id', name as never)
    .orderByRaw(`track_id, destination ->> 'name', created_at desc`)
    .select<(Omit<LatestDelivery, 'createdAt'> & { trackId: string; createdAt: Date })[]>(
      ...['id', 'track_id as trackId', 'status', 'progress', 'created_at as createdAt'],
      db.raw(`destination ->> 'name' as destination`),
      db.raw(`receipt -> 'verdict' ->> 'standing' as standing`),
    );
  const byTrack = new Map<string, LatestDelivery[]>();
  for (const { trackId, createdAt, ...delivery } of rows)
    byTrack.set(trackId, [...(byTrack.get(trackId) ?? []), { ...delivery, createdAt: createdAt.toISOString() }]);
  return byTrack;
}

/** Throws a Problem (404) unless the delivery belongs to the account. */
export async function ownDelivery(
  db: Knex,
  accountId: string,
  id: string,
): Promise<DeliverySummary & { fileHash: string | null }> {
  const row = await requireOwn<{ file_hash: string | null }>(db, 'deliveries', accountId, id, ['file_hash']);
  const [delivery] = await listDeliveries(db, { 'd.id': id });
  return { ...delivery, fileHash: row.file_hash };
}

/** The file of a delivery in the time of its mix. Throws a Problem: 404 for another's, 409 while there is no file. */
export async function deliveryAudio(db: Knex, accountId: string, id: string): Promise<StoredAudio> {
  const { fileHash, receipt } = await ownDelivery(db, accountId, id);
  if (!fileHash || !receipt) throw new Problem(409, 'This delivery has no file: it is not finished, or it failed.');
  return { hash: fileHash, sampleRate: receipt.file.sampleRate, ...placeInMix(receipt.lane.edges, receipt.file) };
}

/** MIME type of what a destination asks for. */
export function mimeTypeOf({ format }: Destination): string {
  return FORMAT_TRAITS[format.name].type;
}

/** Stops a delivery that is not finished; its worker notices within a second or two. */
export async function cancelDelivery(db: Knex, accountId: string, id: string): Promise<void> {
  const { status } = await ownDelivery(db, accountId, id);
  const cancelled = await db('deliveries')
    .where({ id })
    .whereIn('status', ['waiting', 'rendering'])
    .update({ status: 'cancelled', finished_at: db.fn.now() });
  if (cancelled === 0) throw new Problem(409, `This delivery is already ${status}; there is nothing to cancel.`);
}

/** Starts a delivery again as it was ordered. Throws a Problem (409) unless it failed or was cancelled. */
export async function retryDelivery(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    const { status } = await requireOwn<{ status: string }>(trx, 'deliveries', accountId, id, ['status'], {
      lock: true,
    });
    if (status !== 'failed' && status !== 'cancelled')
      throw new Problem(409, `This delivery is ${status}; only one that failed or was cancelled can be started again.`);
    await trx('deliveries')
      .where({ id })
      .update({
        ...{ status: 'waiting', progress: 0, problem: null, held_because: null, crashes: 0, finished_at: null },
        ...{ lease_token: null, waiting_since: trx.fn.now() },
      });
    await enqueue(trx, 'deliver', id);
  });
}
