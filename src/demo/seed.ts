import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import { Ditherer } from '../core/deliver/dither';
import type { Lane } from '../core/lane/schema';
import { fillShelf } from '../server/destinations/shelf';
import { hashPassword } from '../server/accounts/password';
import { DEMO } from '../server/accounts/demo-account';
import { deliveryOrder, startDelivery } from '../server/deliveries/deliveries';
import { createRelease } from '../server/releases/releases';
import { start } from '../server/codecs/process';
import { probe } from '../server/codecs/probe';
import type { OlderMix } from '../server/intake/line-up';
import { takeIn } from '../server/intake/take-in';
import { makeDelivery, runOrderedLane } from '../server/render/delivery';
import type { AudioStore } from '../server/store/audio-store';
import { startingLane } from './lanes';
import { PIECES, type Piece } from './pieces';
import type { Canvas } from './synthesiser';

const RELEASE = 'Slow Orbits';

async function writeFlac({ left, right, sampleRate }: Canvas, fileRate: number, file: string): Promise<void> {
  const ditherer = new Ditherer({ depth: 24, dither: 'none', sampleRate });
  const samples = new Int32Array(left.length * 2);
  const dithered = new Int32Array(left.length);
  ([left, right] as const).forEach((channel, index) => {
    ditherer.process(index as 0 | 1, Float64Array.from(channel), dithered);
    for (let i = 0; i < dithered.length; i++) samples[i * 2 + index] = dithered[i] << 8;
  });
  const raw = `${file}.raw`;
  try {
    await pipeline(Readable.from([Buffer.from(samples.buffer)]), createWriteStream(raw));
    const codec = ['-c:a', 'flac', '-sample_fmt', 's32', '-bits_per_raw_sample', '24', '-bitexact', '-f', 'flac'];
    const source = ['-f', 's32le', '-ar', String(sampleRate), '-ac', '2', '-i', raw];
    const conversion = fileRate === sampleRate ? [] : ['-af', `aresample=${fileRate}:resampler=soxr:precision=28`];
    const { child, finished } = start('ffmpeg', [...source, ...conversion, ...codec, '-y', file]);
    child.stdout.resume();
    await finished;
  } finally {
    await rm(raw, { force: true });
  }
}

/** Makes a file of a canvas and takes it in as a mix; gives the columns of its row. */
async function makeMix(store: AudioStore, piece: Piece, number: number, canvas: Canvas, older: OlderMix | null) {
  const file = await store.temporary('.flac');
  await writeFlac(canvas, piece.fileRate ?? canvas.sampleRate, file);
  const source = await probe(file);
  const { hash } = await store.put(file);
  const { workingHash, workingFormat, report, linedUp } = await takeIn(store, hash, source, older, () => {});
  const row = {
    number,
    file_name: `${piece.title} mix ${number}.flac`,
    status: 'ready',
    progress: 1,
    source: JSON.stringify(source),
    original_hash: hash,
    working_hash: workingHash,
    working_format: workingFormat,
    sample_rate: source.sampleRate,
    frames: report.frames,
    findings: JSON.stringify(report),
    lined_up: linedUp && JSON.stringify(linedUp),
  };
  const { start, end } = report.loudest;
  const loudestSeconds = (start + end) / 2 / source.sampleRate;
  return { row, asOlder: { number, workingHash, sampleRate: source.sampleRate, loudestSeconds } };
}

/** Adds a piece to a release as a track with its mixes, taken in, and a version with a lane. */
export async function addPiece(
  db: Knex,
  store: AudioStore,
  releaseId: string,
  position: number,
  piece: Piece = PIECES[position - 1],
  lane: Lane = startingLane(position),
): Promise<{ trackId: string; versionId: string }> {
  const first = await makeMix(store, piece, 1, piece.make(), null);
  const second = piece.corrected ? await makeMix(store, piece, 2, piece.corrected(), first.asOlder) : null;
  return db.transaction(async (trx) => {
    const [track] = await trx('tracks')
      .insert({ release_id: releaseId, position, title: piece.title })
      .returning<{ id: string }[]>('id');
    const [version] = await trx('versions')
      .insert({ track_id: track.id, name: 'First version', position: 1 })
      .returning<{ id: string }[]>('id');
    await trx('edits').insert({ version_id: version.id, sequence: 0, label: 'Start', lane: JSON.stringify(lane) });
    const rows = second ? [first.row, second.row] : [first.row];
    const [{ id }] = await trx('mixes')
      .insert(rows.map((row) => ({ track_id: track.id, ...row })))
      .returning<{ id: string }[]>('id');
    // Its fault is there to be found first; the corrected mix is uploaded too.
    if (second) await trx('tracks').where({ id: track.id }).update({ mix_id: id });
    return { trackId: track.id, versionId: version.id };
  });
}

/** Adds the demo account; gives its id. */
export async function addAccount(db: Knex): Promise<string> {
  const [{ id }] = await db('accounts')
    .insert({ email: DEMO.email, name: DEMO.name, demo: true, password_hash: await hashPassword(DEMO.password) })
    .returning<{ id: string }[]>('id');
  await fillShelf(db, id);
  return id;
}

/** Adds the pieces that a demo made by an earlier version does not have. */
async function addMissing(db: Knex, store: AudioStore, accountId: string, logger: Logger): Promise<void> {
  const release = await db('releases')
    .where({ account_id: accountId, title: RELEASE })
    .first<{ id: string } | undefined>('id');
  const titles = release ? await db('tracks').where({ release_id: release.id }).pluck<string[]>('title') : [];
  // Who has taken pieces away does not get them back.
  if (!release || titles.length !== 2) return logger.info('demo data is present');
  for (let position = 3; position <= PIECES.length; position++) await addPiece(db, store, release.id, position);
  logger.info('pieces were added to the demo');
}

/**
 * Puts the demo account with the planetarium's release into the database, with a finished delivery; does nothing when
 * it is there. An interrupted seed is completed.
 */
export async function seedDemo(db: Knex, store: AudioStore, logger: Logger): Promise<void> {
  const existing = await db('accounts').where({ email: DEMO.email }).first<{ id: string } | undefined>('id');
  if (existing) {
    const delivered = await db('deliveries as d')
      .join('tracks as t', 't.id', 'd.track_id')
      .join('releases as r', 'r.id', 't.release_id')
      .where({ 'r.account_id': existing.id, 'd.status': 'finished' })
      .first<{ id: string } | undefined>('d.id');
    if (delivered) return addMissing(db, store, existing.id, logger);
    await db.transaction(async (trx) => {
      await trx('deliveries')
        .whereIn(
          'track_id',
          trx('tracks as t')
            .join('releases as r', 'r.id', 't.release_id')
            .where('r.account_id', existing.id)
            .select('t.id'),
        )
        .delete();
      await trx('accounts').where({ id: existing.id }).delete();
    });
  }
  logger.info('making the demo pieces');
  const accountId = await addAccount(db);
  const release = await createRelease(db, accountId, { title: RELEASE, artist: 'The Ashgrove Dome Ensemble' });
  const perihelion = await addPiece(db, store, release.id, 1);
  for (let position = 2; position <= PIECES.length; position++) await addPiece(db, store, release.id, position);

  const streaming = await db('destinations').where({ release_id: release.id, position: 0 }).first<{ id: string }>('id');
  const { id } = await startDelivery(db, accountId, perihelion.trackId, {
    destinationId: streaming.id,
    versionId: perihelion.versionId,
    levelDb: 0,
  });
  await db('deliveries').where({ id }).update({ status: 'rendering', heartbeat_at: db.fn.now() });
  const order = await deliveryOrder(db, id);
  if (!order) throw new Error('The demo delivery has disappeared.');
  const run = await store.temporary('.raw');
  const laneRun = await runOrderedLane(store, order, run);
  const { hash, receipt } = await makeDelivery(store, order, laneRun, () => {});
  await rm(run, { force: true });
  await db('deliveries')
    .where({ id })
    .update({
      status: 'finished',
      progress: 1,
      file_hash: hash,
      receipt: JSON.stringify(receipt),
      finished_at: db.fn.now(),
    });
  logger.info({ loudness: receipt.measured.integratedLufs, standing: receipt.verdict.standing }, 'demo is ready');
}
