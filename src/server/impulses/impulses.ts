import { rm } from 'node:fs/promises';
import path from 'node:path';
import type { Knex } from 'knex';
import type { Lane, Stage } from '../../core/lane/schema';
import type { ImpulseResponse } from '../../core/stages/definition';
import { traitsOf } from '../../core/stages/registry';
import { LONGEST_IMPULSE_SECONDS } from '../../core/stages/room/settings';
import type { ImpulseSummary } from '../../contracts/impulse';
import { decodeImpulse } from '../codecs/impulse';
import { probe } from '../codecs/probe';
import type { SentFile } from '../http/upload';
import { isDiskFull } from '../failures';
import { ownedBy, requireOwn } from '../ownership';
import { diskFull, Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import { requireRoomFor } from '../store/room';

/** Ten seconds of stereo in 32 bits at 192 kHz, and room for a header. */
const MAX_BYTES = 16 * 1024 * 1024;
const MAX_IMPULSES = 100;

/** A stored impulse response: what a render needs to know of it. */
export interface StoredImpulse {
  hash: string;
  channels: number;
}

export async function listImpulses(db: Knex, accountId: string): Promise<ImpulseSummary[]> {
  return db('impulse_responses')
    .where({ account_id: accountId })
    .orderBy('created_at')
    .select<ImpulseSummary[]>('id', 'name', 'seconds');
}

/** Takes an uploaded impulse response. Throws a Problem with the reason when it cannot be one; nothing is kept then. */
export async function receiveImpulse(
  db: Knex,
  accountId: string,
  { fileName, body }: SentFile,
): Promise<ImpulseSummary> {
  const store = audioStore(db);
  await requireRoomFor(db, store, accountId, MAX_BYTES);
  const received = await store.receive(body, MAX_BYTES).catch((error: unknown) => {
    if (error instanceof Problem) throw error;
    if (isDiskFull(error)) throw diskFull();
    throw new Problem(400, `The upload of ${fileName} was interrupted. Nothing was kept; upload it again.`);
  });
  try {
    const source = await probe(received.file).catch((error: unknown) => {
      if (!(error instanceof Problem)) throw error;
      throw new Problem(422, `${fileName} is not a sound with one or two channels. Choose a WAV file of a room.`);
    });
    if (source.durationSeconds > LONGEST_IMPULSE_SECONDS + 0.01) {
      const seconds = source.durationSeconds.toFixed(1);
      throw new Problem(
        422,
        `${fileName} is ${seconds} s long. An impulse response can have up to ${LONGEST_IMPULSE_SECONDS} s; trim its end.`,
      );
    }
    await decodeImpulse(received.file, source.channels, source.sampleRate).catch((error: unknown) => {
      if (error instanceof Problem || isDiskFull(error)) throw error;
      throw new Problem(422, `${fileName} is damaged. Export it again.`);
    });
    await store.adopt(received.file, received.hash);
    return await db.transaction(async (trx) => {
      const [{ count }] = await trx('impulse_responses')
        .where({ account_id: accountId })
        .count<{ count: string }[]>('id');
      if (Number(count) >= MAX_IMPULSES)
        throw new Problem(
          422,
          `You already have ${MAX_IMPULSES} impulse responses, the most there can be. Remove one that no room uses.`,
        );
      const [row] = await trx('impulse_responses')
        .insert({
          account_id: accountId,
          name: path.basename(fileName, path.extname(fileName)).slice(0, 80) || 'Untitled',
          file_hash: received.hash,
          channels: source.channels,
          seconds: source.durationSeconds,
        })
        .returning<ImpulseSummary[]>(['id', 'name', 'seconds']);
      return row;
    });
  } catch (error) {
    await rm(received.file, { force: true });
    throw error;
  }
}

/** Whether the lane (jsonb) in a column has a room with an impulse response of this identifier. */
const referencesImpulse = (column: string) =>
  `jsonb_path_exists(${column}, '$.stages[*].settings.file \\? (@ == $id)', jsonb_build_object('id', ?::text))`;

/**
 * Removes an impulse response; the store's sweep removes its file. Throws a Problem: 404 for another's, 409 while a room
 * uses it, or a delivery that is under way.
 */
export async function removeImpulse(db: Knex, accountId: string, id: string): Promise<void> {
  await db.transaction(async (trx) => {
    const row = await requireOwn<{ name: string }>(trx, 'impulse_responses', accountId, id, ['name'], { lock: true });
    const used = await ownedBy(trx, 'versions', accountId)
      .join('edits as e', (join) => join.on('x.id', 'e.version_id').andOn('x.current', 'e.sequence'))
      .join('tracks as t', 't.id', 'x.track_id')
      .whereRaw(referencesImpulse('e.lane'), [id])
      .first<{ track: string; version: string } | undefined>('t.title as track', 'x.name as version');
    if (used)
      throw new Problem(
        409,
        `“${row.name}” is used by a room in “${used.track}”, version “${used.version}”. Choose another one there first.`,
      );
    const delivered = await ownedBy(trx, 'deliveries', accountId)
      .join('tracks as t', 't.id', 'x.track_id')
      .whereIn('x.status', ['waiting', 'rendering'])
      .whereRaw(referencesImpulse('x.lane'), [id])
      .first<{ track: string } | undefined>('t.title as track');
    if (delivered)
      throw new Problem(409, `A delivery of “${delivered.track}” is using “${row.name}”. Wait until it is done.`);
    await trx('impulse_responses').where({ id }).delete();
  });
}

/** Interleaved stereo of an impulse response at a sample rate in Hz. Throws a Problem (404) for another's. */
export async function impulseSamples(
  db: Knex,
  accountId: string,
  id: string,
  sampleRate: number,
): Promise<Float32Array> {
  const columns = ['file_hash', 'channels'] as const;
  const row = await requireOwn<{ file_hash: string; channels: number }>(
    ...([db, 'impulse_responses', accountId, id, columns] as const),
  );
  const { left, right } = await decodeImpulse(await audioStore(db).locate(row.file_hash), row.channels, sampleRate);
  return Float32Array.from({ length: 2 * left.length }, (_, i) => (i % 2 ? right : left)[i >> 1]);
}

/** The stored impulse responses of an account that a lane names. */
export async function impulsesOf(
  db: Knex,
  accountId: string,
  { stages }: Lane,
): Promise<Record<string, StoredImpulse>> {
  const names = stages.flatMap((stage) => (stage.on && traitsOf<Stage>(stage).impulse?.(stage.settings)) || []);
  // The identifiers come from saved settings, which may hold anything.
  const rows = await db('impulse_responses')
    .where({ account_id: accountId })
    .whereRaw('id::text = ANY(?)', [names])
    .select<{ id: string; hash: string; channels: number }[]>('id', 'file_hash as hash', 'channels');
  return Object.fromEntries(rows.map(({ id, hash, channels }) => [id, { hash, channels }]));
}

/** What {@link impulsesOf} found, decoded at a sample rate in Hz. */
export async function decodeImpulses(
  stored: Record<string, StoredImpulse>,
  locate: (hash: string) => Promise<string>,
  sampleRate: number,
): Promise<Map<string, ImpulseResponse>> {
  const decoded = new Map<string, ImpulseResponse>();
  for (const [name, { hash, channels }] of Object.entries(stored))
    decoded.set(name, await decodeImpulse(await locate(hash), channels, sampleRate));
  return decoded;
}

/** Throws a Problem (409) when an impulse response that the lane needs is not there. */
export function requireImpulses({ stages }: Lane, impulses: ReadonlyMap<string, ImpulseResponse>): void {
  for (const stage of stages) {
    const name = stage.on ? traitsOf<Stage>(stage).impulse?.(stage.settings) : null;
    if (name && !impulses.has(name))
      throw new Problem(409, `The impulse response “${name}” is missing: upload it again, or choose another room.`);
  }
}
