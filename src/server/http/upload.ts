import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { Problem } from '../problem';

export interface SentFile {
  fileName: string;
  body: Readable;
  /** Length that the sender announced; null when it did not. */
  announcedBytes: number | null;
}

/** The body of a request as a file, whose name stands in the query. Throws a Problem when there is no name or no body. */
export function sentFile(request: Request): SentFile {
  const fileName = new URL(request.url).searchParams.get('name')?.trim().slice(0, 255);
  if (!fileName) throw new Problem(400, 'The upload does not say what the file is called.');
  if (!request.body) throw new Problem(422, `${fileName} is empty. Export the mix again and put it in once more.`);
  const announced = request.headers.get('content-length');
  return {
    fileName,
    body: Readable.fromWeb(request.body as ReadableStream),
    announcedBytes: announced === null ? null : Number(announced),
  };
}
