import { open } from 'node:fs/promises';
import { create as contentDisposition } from 'content-disposition';
import fresh from 'fresh';
import parseRange from 'range-parser';
import { lazyStream } from './lazy-stream';

const CHUNK = 256 * 1024;
/** What the parser of ranges answers when there is none, and when none of it lies in the file. */
const NO_RANGE = -2;
const UNSATISFIABLE = -1;

/** The bytes of part of a file; it is open only while it is read. */
async function* partOf(file: string, start: number, end: number): AsyncGenerator<Uint8Array, void, undefined> {
  const handle = await open(file, 'r');
  try {
    for (let position = start; position <= end;) {
      const wanted = Math.min(CHUNK, end - position + 1);
      const { bytesRead, buffer } = await handle.read(new Uint8Array(wanted), 0, wanted, position);
      if (bytesRead === 0) throw new Error('The file got shorter while it was being read.');
      position += bytesRead;
      yield buffer.subarray(0, bytesRead);
    }
  } finally {
    await handle.close();
  }
}

export interface FileOptions {
  file: string;
  size: number;
  type: string;
  /** SHA-256: the file never changes under its hash. */
  hash: string;
  /** Whether caches may keep it; left out: they may. */
  kept?: boolean;
  /** Saves it under this name instead of showing it. */
  downloadAs?: string;
}

/**
 * Answers with a file, or the part of it that a Range header asks for. The framework sends bodies chunked and drops
 * Content-Length: who needs the size asks for a range and reads it from Content-Range.
 */
export function fileResponse(
  request: Request,
  { file, size, type, hash, kept = true, downloadAs }: FileOptions,
): Response {
  const headers = new Headers({
    'Accept-Ranges': 'bytes',
    'Content-Type': type,
    ETag: `"${hash}"`,
    'Cache-Control': kept ? 'private, max-age=31536000, immutable, no-transform' : 'private, no-store, no-transform',
  });
  if (downloadAs) headers.set('Content-Disposition', contentDisposition(downloadAs));
  const asked = Object.fromEntries(request.headers);
  if (fresh(asked, { etag: headers.get('ETag')! })) return new Response(null, { status: 304, headers });
  // A range of another form of the file would be of no use.
  const valid = !asked['if-range'] || asked['if-range'] === headers.get('ETag');
  const ranges = valid && asked.range ? parseRange(size, asked.range) : NO_RANGE;
  if (ranges === UNSATISFIABLE) {
    headers.set('Content-Range', `bytes */${size}`);
    return new Response(null, { status: 416, headers });
  }
  // Several ranges, and anything that is not a range, get the whole file, as the standard allows.
  if (typeof ranges === 'number' || ranges.type !== 'bytes' || ranges.length !== 1)
    return new Response(
      lazyStream(() => partOf(file, 0, size - 1), request.signal),
      { headers },
    );
  const [{ start, end }] = ranges;
  headers.set('Content-Range', `bytes ${start}-${end}/${size}`);
  return new Response(
    lazyStream(() => partOf(file, start, end), request.signal),
    { status: 206, headers },
  );
}
