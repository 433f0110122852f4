import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { Problem } from '../problem';
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

/** A file's name as it is kept. Throws a Problem (400) when there is none. */
export function fileNameOf(given: string | null | undefined): string {
  const name = given?.trim().slice(0, 255).toWellFormed();
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
