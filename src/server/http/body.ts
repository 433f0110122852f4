import type { z } from 'zod';
import { Problem } from '../problem';

/** The largest body of JSON there is: a lane of twelve full equalizers has a tenth of it. */
const MAX_BYTES = 512 * 1024;
const MAX_DEPTH = 32;

/** A body of at most so many bytes. Throws a Problem (413) when there is more. */
export async function bytesOf(request: Request, mostBytes: number): Promise<Uint8Array> {
  const tooLarge = () =>
    new Problem(413, `The request is larger than ${mostBytes / 1024} kB, the maximum. Nothing was changed.`);
  if (Number(request.headers.get('content-length') ?? 0) > mostBytes) throw tooLarge();
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  const reader = request.body?.getReader();
  while (reader) {
    const { done, value } = await reader.read();
    if (done) break;
    bytes += value.length;
    if (bytes > mostBytes) {
      await reader.cancel();
      throw tooLarge();
    }
    chunks.push(value);
  }
  return Buffer.concat(chunks);
}

/** Text of a body of JSON. Throws a Problem: 413 when it is too large, 400 when it is no UTF-8. */
async function text(request: Request): Promise<string> {
  const bytes = await bytesOf(request, MAX_BYTES);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new Problem(400, 'The request is not UTF-8 text.');
  }
}

/** What the database can't hold, or nothing here needs; null when all is well. */
function unfit(value: unknown, depth = 0): string | null {
  if (depth > MAX_DEPTH) return `The request is nested more than ${MAX_DEPTH} deep.`;
  if (typeof value === 'string') return unfitText(value);
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inner] of Object.entries(value)) {
    const problem = unfitText(key) ?? unfit(inner, depth + 1);
    if (problem) return problem;
  }
  return null;
}

/** Why a text can't be stored; null when it can. */
export function unfitText(value: string): string | null {
  return value.includes('\0') || !value.isWellFormed()
    ? 'A text has invalid characters (NUL, or half of a surrogate pair). Remove them and try again.'
    : null;
}

/**
 * The JSON body of a request, checked. Throws a Problem: 415 when it is not called JSON, 413 when it is too large, 400 when
 * it is no JSON, 422 with a sentence for each thing that is wrong.
 */
export async function body<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  if (!/^application\/json\s*(;|$)/i.test(request.headers.get('content-type') ?? ''))
    throw new Problem(415, 'The request must be JSON, with the content type application/json.');
  const given = await text(request);
  let data: unknown;
  try {
    data = JSON.parse(given);
  } catch {
    throw new Problem(400, 'The request is not JSON.');
  }
  const problem = unfit(data);
  if (problem) throw new Problem(422, problem);
  const result = schema.safeParse(data);
  if (result.success) return result.data;
  const sentences = result.error.issues.map(({ path, message }) =>
    path.length > 0 ? `${path.join('.')}: ${message}` : message,
  );
  const most = 10;
  const more = sentences.length > most ? [`And ${sentences.length - most} more.`] : [];
  throw new Problem(422, [...sentences.slice(0, most), ...more].join(' ').slice(0, 4000));
}
