import { z } from 'zod';
import { framesAtRate } from '../../contracts/audio';
import type { Accepts } from '../codecs/container';
import { floatWave } from '../codecs/decode';
import { Problem } from '../problem';
import { audioStore } from '../store/audio-store';

const rateSchema = z.coerce.number().int().min(8000).max(384000);

/** The sample rate in Hz that a query asks for. Throws a Problem (422) when it asks for none that is possible. */
export function rateOf(request: Request): number {
  const rate = rateSchema.safeParse(new URL(request.url).searchParams.get('rate'));
  if (!rate.success) throw new Problem(422, 'Give the sample rate as a whole number of Hz from 8000 to 384000.');
  return rate.data;
}

/** Conversions that run at once: a page with nine candidates asks for a few. */
const MOST_AT_ONCE = 24;
let running = 0;

/** Counts while it is read. */
async function* counted(
  wave: AsyncGenerator<Uint8Array, void, undefined>,
): AsyncGenerator<Uint8Array, void, undefined> {
  running++;
  try {
    yield* wave;
  } finally {
    running--;
  }
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
 * read, and ends when the reader goes away.
 */
export async function floatAudio(
  request: Request,
  { hash, frames, sampleRate, storedRate = sampleRate, ...decoding }: StoredAudio,
  rate: number,
): Promise<Response> {
  if (running >= MOST_AT_ONCE)
    throw new Problem(503, 'The server is converting as much audio as it can. Try again in a moment.', {
      retryAfterSeconds: 5,
    });
  const file = await audioStore().locate(hash);
  const options = {
    frames: framesAtRate(frames, sampleRate, rate),
    rate,
    resampled: rate !== storedRate,
    ...decoding,
  };
  const wave = counted(floatWave(file, options));
  request.signal.addEventListener('abort', () => void wave.return(undefined), { once: true });
  const stream = new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        const { done, value } = await wave.next();
        if (done) controller.close();
        else controller.enqueue(value);
      },
      async cancel() {
        await wave.return(undefined);
      },
    },
    { highWaterMark: 2 },
  );
  return new Response(stream, {
    headers: { 'Content-Type': 'audio/wav', 'Cache-Control': 'private, no-store' },
  });
}
