import type { Knex } from 'knex';
import { z } from 'zod';
import { framesAtRate } from '../../contracts/audio';
import type { Accepts } from '../codecs/container';
import { floatWave } from '../codecs/decode';
import { Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import { lazyStream } from './lazy-stream';

const rateSchema = z.coerce.number().int().min(8000).max(384000);

/** The sample rate in Hz that a query asks for. Throws a Problem (422) when it asks for none that is possible. */
export function rateOf(request: Request): number {
  const rate = rateSchema.safeParse(new URL(request.url).searchParams.get('rate'));
  if (!rate.success) throw new Problem(422, 'Give the sample rate as a whole number of Hz from 8000 to 384000.');
  return rate.data;
}

/** Conversions that run at once, of all accounts and of one: a page with nine candidates asks for a few. */
const MOST_AT_ONCE = 24;
const MOST_OF_ONE = 10;
// Routes are bundled apart, and share what is counted here.
const holder = globalThis as { copperConversions?: Map<string, number> };
const running = (holder.copperConversions ??= new Map<string, number>());

/** Lets an account convert, until what it gives is called. Throws a Problem (503) while it, or all together, have as many as they may. */
function takeTurn(accountId: string): () => void {
  const all = [...running.values()].reduce((sum, count) => sum + count, 0);
  const own = running.get(accountId) ?? 0;
  if (all >= MOST_AT_ONCE || own >= MOST_OF_ONE) {
    const who = own < MOST_OF_ONE ? 'The server is' : 'For this account the server is';
    throw new Problem(503, `${who} converting as much audio as it can. Try again in a moment.`, {
      retryAfterSeconds: 5,
    });
  }
  running.set(accountId, own + 1);
  return () => {
    const left = running.get(accountId)! - 1;
    if (left > 0) running.set(accountId, left);
    else running.delete(accountId);
  };
}

/** A file of the store, of some frames at a sample rate in Hz. */
export interface StoredAudio {
  hash: string;
  frames: number;
  sampleRate: number;
  /** Left out: two. */
  channels?: number;
  /** Left out: lossless files. */
  accepts?: Accepts;
  /** Frames at its own rate by which the file is late; left out: none. */
  lateFrames?: number;
  /** Hz: the file's own rate, where its frames are counted at another. */
  storedRate?: number;
}

/**
 * A file decoded to a WAV of 32-bit floats, at another rate where one is asked for: converted by soxr. It is made as it is
 * read, and ends when the reader goes away or stalls. Throws a Problem (503) when the account has too many.
 */
export async function floatAudio(
  db: Knex,
  request: Request,
  accountId: string,
  { hash, frames, sampleRate, storedRate = sampleRate, ...decoding }: StoredAudio,
  rate: number,
): Promise<Response> {
  const file = await audioStore(db).locate(hash);
  const options = {
    frames: framesAtRate(frames, sampleRate, rate),
    rate,
    resampled: rate !== storedRate,
    ...decoding,
  };
  return new Response(
    lazyStream(() => floatWave(file, options), request.signal, takeTurn(accountId)),
    { headers: { 'Content-Type': 'audio/wav', 'Cache-Control': 'private, no-store' } },
  );
}
