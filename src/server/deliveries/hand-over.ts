import { createReadStream } from 'node:fs';
import path from 'node:path';
import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import type { Knex } from 'knex';
import type { Format } from '../../core/deliver/format';
import { FORMAT_TRAITS } from '../../core/deliver/format';
import type { Receipt } from '../../core/deliver/receipt';
import type { TagName } from '../../core/deliver/tags';
import { receive } from '../../desk/desk';
import { slipSchema, type Answer, type Slip } from '../../desk/slip';
import { getConfig } from '../config';
import { Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import { requireRoom } from '../store/room';
import { ownDelivery } from './deliveries';

/** The largest file that the desk takes: four hours of stereo at 192 kHz and 24 bits is less. */
const MOST_BYTES = 16 * 2 ** 30;

const CONTAINERS: Record<Format, Slip['container']> = {
  ...{ WAV: 'wav', 'Broadcast WAV': 'bwf', FLAC: 'flac', AIFF: 'aiff', ALAC: 'alac', MP3: 'mp3', AAC: 'aac' },
};
/** Tags that the desk looks for. */
const TOLD = ['title', 'artist', 'album', 'isrc'] as const satisfies readonly TagName[];

function deskFolder(): string {
  return path.join(getConfig().dataFolder, 'receiving-desk');
}

/** The slip of a finished file: what its destination asks for, as the desk names it. */
export function slipOf({ file, destination, tags }: Receipt): Slip {
  const { loudness, sampleRate, format, duration, silence } = destination;
  // Beside a bext chunk ffprobe reads no tags.
  const required = format.name === 'Broadcast WAV' ? [] : (destination.tags?.required ?? []);
  const told = TOLD.filter((name) => required.includes(name) && tags[name] !== undefined);
  return {
    ...{ name: file.name, sha256: file.sha256, container: CONTAINERS[format.name] },
    sampleRate: sampleRate.rule === 'fixed' ? sampleRate.hertz : null,
    lowestSampleRate: sampleRate.rule === 'minimum' ? sampleRate.hertz : null,
    bits: FORMAT_TRAITS[format.name].lossless ? destination.wordLength.bits : null,
    loudness: {
      lowest: loudness?.rule === 'target' ? loudness.lufs - loudness.toleranceLu : null,
      highest: loudness && (loudness.rule === 'target' ? loudness.lufs + loudness.toleranceLu : loudness.lufs),
    },
    highestMomentary: destination.momentary?.maxLufs ?? null,
    highestShortTerm: destination.shortTerm?.maxLufs ?? null,
    widestRange: destination.range?.maxLu ?? null,
    highestTruePeak: destination.truePeak.maxDbtp,
    ...{ shortest: duration?.minSeconds ?? null, longest: duration?.maxSeconds ?? null },
    longestSilence: { head: silence?.head.maxSeconds ?? null, tail: silence?.tail.maxSeconds ?? null },
    tags: Object.fromEntries(told.map((name) => [name, tags[name]])),
  };
}

/**
 * Hands a finished file over to the receiving desk and keeps its answer. Throws a Problem: 404 for another's, 409 while
 * there is no file, 507 when there is no room for a second copy.
 */
export async function handOver(db: Knex, accountId: string, id: string): Promise<Answer> {
  const { receipt, fileHash } = await ownDelivery(db, accountId, id);
  if (!receipt || !fileHash)
    throw new Problem(409, 'There is no finished file yet. Wait until the delivery is finished.');
  const store = audioStore(db);
  await requireRoom(store, receipt.file.bytes);
  const answer = await receive(deskFolder(), slipOf(receipt), createReadStream(await store.locate(fileHash)));
  await db('deliveries')
    .where({ id })
    .update({ desk_answer: JSON.stringify({ ...answer, at: new Date().toISOString() }) });
  return answer;
}

/** Takes a file from outside at the desk. Throws a Problem: 400 for a bad slip, 413 and 507 for a file that is too large. */
export async function receiveAtDesk(db: Knex, request: Request): Promise<Answer> {
  const given = new URL(request.url).searchParams.get('slip') ?? '';
  let slip: unknown;
  try {
    slip = JSON.parse(given);
  } catch {
    throw new Problem(400, 'The slip is missing, or is not JSON.');
  }
  const checked = slipSchema.safeParse(slip);
  if (!checked.success) throw new Problem(400, `The slip is not complete: ${checked.error.issues[0].message}`);
  const bytes = Number(request.headers.get('content-length'));
  if (!request.body || !(bytes > 0)) throw new Problem(400, 'Send the file as the body, with its length.');
  if (bytes > MOST_BYTES) throw new Problem(413, 'The desk takes files of at most 16 GB.');
  await requireRoom(audioStore(db), bytes);
  return receive(deskFolder(), checked.data, Readable.fromWeb(request.body as ReadableStream));
}
