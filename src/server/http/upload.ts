import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { Problem } from '../problem';
import { NOT_IN_A_LINE } from '../../contracts/release';
import { unfitText } from './body';

export interface SentFile {
  fileName: string;
  /** What a new track is to be called; left out: by the file's name. */
  title?: string;
  body: Readable;
  /** Length that the sender announced; null when it did not. */
  announcedBytes: number | null;
  /** Bytes that count as the account's already, since they were uploaded before. */
  heldBytes?: number;
}

/** Bytes of a file's name, as file systems take them. */
const MOST_NAME_BYTES = 255;

/** A text cut to some bytes of UTF-8, between two characters. */
export function withinBytes(text: string, most: number): string {
  let bytes = 0;
  let cut = '';
  for (const { segment } of new Intl.Segmenter().segment(text)) {
    bytes += Buffer.byteLength(segment);
    if (bytes > most) return cut.trim();
    cut += segment;
  }
  return cut;
}

/** A file's name as it is kept. Throws a Problem (400) when there is none. */
export function fileNameOf(given: string | null | undefined): string {
  if (given?.includes('\ufffd'))
    throw new Problem(400, 'The name of the file is not UTF-8 text. Rename the file and upload it again.');
  // What no title may have is left out: a title is made of it.
  const line = (given ?? '').toWellFormed().replace(new RegExp(NOT_IN_A_LINE, 'gu'), '');
  const name = withinBytes(line.trim(), MOST_NAME_BYTES);
  if (!name) throw new Problem(400, 'The upload does not say what the file is called.');
  const unfit = unfitText(name);
  if (unfit) throw new Problem(422, unfit);
  return name;
}

/** The body of a request as a file, whose name is in the query. Throws a Problem when there is no name or no body. */
export function sentFile(request: Request): SentFile {
  const fileName = fileNameOf(new URL(request.url).searchParams.get('name'));
  if (!request.body) throw new Problem(422, `${fileName} is empty. Export the mix again and upload it again.`);
  const announced = request.headers.get('content-length');
  return {
    fileName,
    body: Readable.fromWeb(request.body as ReadableStream),
    announcedBytes: announced === null ? null : Number(announced),
  };
}
