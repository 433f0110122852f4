import type { Knex } from 'knex';
import { deliveredRate, deliveredWordLength, type Destination } from '../../core/deliver/destination';
import type { WordLength } from '../../core/deliver/format';
import { audioStore } from './audio-store';
import { requireRoomFor } from './room';

/** Bytes of a sample. */
const BYTES: Record<WordLength, number> = { 16: 2, 20: 3, 24: 3 };

/** Bytes a second of what is delivered of a mix with a rate in Hz, as uncompressed or encoded samples. */
export function deliveredBytesPerSecond(destination: Destination, mixRate: number): number {
  const bits = deliveredWordLength(destination);
  if (bits === null) return (destination.format.kbps ?? 320) * 125;
  return deliveredRate(destination, mixRate) * 2 * BYTES[bits];
}

/**
 * The bytes that work on mixes of an account is going to take, at so many a second of each mix; it is to be kept with the work
 * until that has a file. Throws a Problem: 413 or 507 when there is no room for it.
 */
export async function reserve(
  db: Knex,
  accountId: string,
  mixIds: readonly string[],
  bytesPerSecond: (sampleRate: number) => number,
): Promise<number> {
  const mixes = await db('mixes')
    .whereIn('id', [...new Set(mixIds)])
    .select<{ sampleRate: number | null; frames: string | null }[]>('sample_rate as sampleRate', 'frames');
  const bytes = mixes.reduce(
    (sum, { sampleRate, frames }) =>
      sampleRate && frames ? sum + (Number(frames) / sampleRate) * bytesPerSecond(sampleRate) : sum,
    0,
  );
  await requireRoomFor(db, audioStore(db), accountId, Math.ceil(bytes));
  return Math.ceil(bytes);
}
