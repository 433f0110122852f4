import type { Knex } from 'knex';
import { z } from 'zod';
import { heardPassage } from '../../contracts/heard-passage';
import { heardSourceSchema, STREAM_CODECS, type StreamCodec } from '../../contracts/listening';
import { fileResponse } from '../http/file-response';
import { Problem } from '../problem';
import { audioStore } from '../store/audio-store';
import type { LinkRow } from './links';
import { encodeForTrial, MOST_SHIFT_SECONDS } from './blind-passage';
import { sourceOfLetter } from './preference';
import { PASSAGE, STREAM_RATE, WHOLE } from './programme';
import { heardOn, heardTrack } from './visitor';

const TYPES: Record<StreamCodec, string> = { opus: 'audio/webm', aac: 'audio/mp4', flac: 'audio/flac' };
const codec = z.enum(STREAM_CODECS);

async function fileOf(
  db: Knex,
  { id }: LinkRow,
  where: { source: string; codec: string; place: number },
  missing = 'There is no such stream on this listening page. Reload it.',
): Promise<string> {
  const row = await db('listening_files')
    .where({ link_id: id, ...where })
    .first<{ file_hash: string } | undefined>('file_hash');
  if (!row) throw new Problem(404, missing);
  return row.file_hash;
}

/** Streams a whole programme, or the part of it that is asked for: `what` is a source, and how it is encoded. */
export async function streamFile(
  db: Knex,
  request: Request,
  link: LinkRow,
  what: string,
  how: string,
): Promise<Response> {
  const asked = z.object({ source: heardSourceSchema, codec }).safeParse({ source: what, codec: how });
  if (!asked.success) throw new Problem(404, 'There is no such stream on this listening page. Reload it.');
  const hash = await fileOf(db, link, { ...asked.data, place: WHOLE });
  const store = audioStore(db);
  const answer = fileResponse(request, {
    ...{ file: await store.locate(hash), size: await store.size(hash), hash, type: TYPES[asked.data.codec] },
  });
  // Not for long: a link that has ended is to be silent.
  answer.headers.set('Cache-Control', 'private, max-age=600, no-transform');
  return answer;
}

/** Links that were rendered by an earlier form of the application have none. */
const NO_PASSAGE = 'This blind test has to be prepared again. Ask whoever sent the link to update it.';

const letterSchema = z.object({
  ...{ trial: z.coerce.number().int().min(0), letter: z.enum(['A', 'B']), codec: codec.exclude(['flac']) },
});

/** Gives what a letter of a blind test stands for, encoded for this trial: neither length nor equal bytes tell which it is. */
export async function streamLetter(
  db: Knex,
  link: LinkRow,
  testId: string,
  asked: Record<string, string | null>,
): Promise<Response> {
  const { data } = letterSchema.safeParse(asked);
  if (!data) throw new Problem(404, 'There is no such stream on this listening page. Reload it.');
  const source = await sourceOfLetter(db, link, testId, data.trial, data.letter);
  const { preference, tracks } = heardOn(link);
  const track = tracks.find(({ trackId }) => trackId === preference?.trackId)!;
  const { from, to } = heardPassage(track);
  const hash = await fileOf(db, link, { source, codec: 'flac', place: PASSAGE }, NO_PASSAGE);
  const file = await audioStore(db).locate(hash);
  const passage = { file, rate: STREAM_RATE, seconds: to - from + MOST_SHIFT_SECONDS };
  return new Response(await encodeForTrial(passage, `${testId} ${data.trial}`, data.codec), {
    headers: { 'Content-Type': TYPES[data.codec], 'Cache-Control': 'private, no-store' },
  });
}

/** A master as a file to save. Throws a Problem (403) where the link does not allow it. */
export async function savedTrack(db: Knex, request: Request, link: LinkRow, trackId: string): Promise<Response> {
  if (!link.download) throw new Problem(403, 'This link is for listening only. Ask whoever sent it for files.');
  const { title, artist } = heardTrack(link, trackId);
  const place = heardOn(link).tracks.findIndex((track) => track.trackId === trackId);
  const hash = await fileOf(db, link, { source: 'master', codec: 'flac', place });
  const store = audioStore(db);
  const number = String(place + 1).padStart(2, '0');
  return fileResponse(request, {
    ...{ file: await store.locate(hash), size: await store.size(hash), hash, type: TYPES.flac, kept: false },
    downloadAs: `${number} ${[artist, title].filter(Boolean).join(' - ')}.flac`.replace(/[/\\:*?"<>|\p{Cc}]/gu, '_'),
  });
}
