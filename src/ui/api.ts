import { Upload as TusUpload, type DetailedError } from 'tus-js-client';
import type { z } from 'zod';
import { codeOf, problemSchema, type ProblemCode } from '../contracts/problem';

/** What the server refused, in its own sentence. */
export class ApiError extends Error {
  constructor(
    /** HTTP status; 0 when there was no answer. */
    readonly status: number,
    readonly code: ProblemCode,
    message: string,
  ) {
    super(message);
  }
}

const UNREACHABLE = 'The server can’t be reached. Check that it is running, and try again.';

interface Asking {
  method?: string;
  /** Sent as JSON; bytes as they are. */
  body?: unknown;
  keepalive?: boolean;
  /** Ends the request when nobody wants its answer any more. */
  signal?: AbortSignal;
}

function unreachable(): never {
  throw new ApiError(0, 'unavailable', UNREACHABLE);
}

/** The problem that an answer tells; of an answer that tells none, its status. */
function problemOf(status: number, data: unknown): ApiError {
  const told = problemSchema.safeParse(data);
  if (told.success) return new ApiError(status, told.data.code, told.data.error);
  return new ApiError(status, codeOf(status), `The server answered ${status}. Try again.`);
}

/** Browsers refuse to finish a request of a page that was left when its body is longer (Fetch standard: 64 KiB of all such). */
const KEEPALIVE_BYTES = 60 * 1024;

/** A body as it is sent: bytes as they are, everything else as JSON. */
function encoded(body: unknown): Uint8Array<ArrayBuffer> | string | undefined {
  if (body instanceof Uint8Array) return body as Uint8Array<ArrayBuffer>;
  return body === undefined ? undefined : JSON.stringify(body);
}

async function request(path: string, { method = 'GET', body, keepalive, signal }: Asking): Promise<Response> {
  const sent = encoded(body);
  const type = body instanceof Uint8Array ? 'application/octet-stream' : 'application/json';
  const answer = await fetch(path, {
    method,
    keepalive: keepalive && new Blob(sent === undefined ? [] : [sent]).size <= KEEPALIVE_BYTES,
    signal,
    ...(sent && { body: sent, headers: { 'Content-Type': type } }),
  }).catch(unreachable);
  if (answer.ok) return answer;
  if (answer.status === 401 && !path.endsWith('/session'))
    window.location.assign(`/sign-in?next=${encodeURIComponent(window.location.pathname)}`);
  throw problemOf(answer.status, await answer.json().catch(() => null));
}

/** The last change of each path that is under way. */
const changing = new Map<string, Promise<unknown>>();

/** Asks the server. A change waits for the one before it of the same path: requests under way at once arrive in any order. */
function ask(path: string, asking: Asking): Promise<Response> {
  if (asking.method !== 'PUT' && asking.method !== 'PATCH') return request(path, asking);
  const before = changing.get(path);
  const answer = before ? before.then(() => request(path, asking)) : request(path, asking);
  const ended: Promise<unknown> = answer
    .catch(() => {})
    .then(() => {
      if (changing.get(path) === ended) changing.delete(path);
    });
  changing.set(path, ended);
  return answer;
}

/**
 * Asks the server for JSON of a schema. Throws an ApiError with a sentence, also when the answer is not of that schema; goes
 * to the sign-in page when the session has ended.
 */
export async function api<Schema extends z.ZodType>(
  schema: Schema,
  path: string,
  asking: Asking = {},
): Promise<z.infer<Schema>> {
  const answer = await ask(path, asking);
  const checked = schema.safeParse(await answer.json().catch(() => null));
  if (checked.success) return checked.data;
  throw new ApiError(
    answer.status,
    'failed',
    'The server gave an answer that this page does not understand. Reload it.',
  );
}

/** Asks the server for bytes; null when it has none. Throws an ApiError with a sentence, as {@link api} does. */
export async function bytes(path: string): Promise<Uint8Array | null> {
  const answer = await ask(path, {});
  return answer.status === 204 ? null : new Uint8Array(await answer.arrayBuffer());
}

/** Tells the server something and needs no answer. Throws an ApiError with a sentence, as {@link api} does. */
export async function send(path: string, asking: Asking): Promise<void> {
  await ask(path, asking);
}

export interface Upload {
  /** Resolves when the whole file has arrived, with the upload's identifier; rejects with a sentence. */
  done: Promise<string>;
  cancel(): void;
}

/** Bytes sent at a time: what is lost at most when a connection breaks. */
const PIECE = 8 * 1024 * 1024;
/** Waits between tries after a connection broke, in ms; then the upload gives up. */
const TRIES = [0, 1000, 3000, 5000, 10_000, 20_000, 30_000];

function uploadProblem(error: Error | DetailedError): ApiError {
  const answer = 'originalResponse' in error ? error.originalResponse : null;
  if (!answer) return new ApiError(0, 'unavailable', UNREACHABLE);
  let data: unknown = null;
  try {
    data = JSON.parse(answer.getBody());
  } catch {
    // Told by its status.
  }
  return problemOf(answer.getStatus(), data);
}

/** Sends a file piece by piece, going on where it was after an interruption, also of the page. */
export function upload(file: File, onProgress: (share: number) => void): Upload {
  let cancel = () => {};
  const done = new Promise<string>((resolve, reject) => {
    const sending = new TusUpload(file, {
      endpoint: '/api/uploads',
      chunkSize: PIECE,
      retryDelays: TRIES,
      removeFingerprintOnSuccess: true,
      onProgress: (sent, total) => onProgress(total > 0 ? sent / total : 0),
      onSuccess: () => resolve(sending.url?.split('/').at(-1) ?? ''),
      onError: (error) => reject(uploadProblem(error)),
    });
    cancel = () => {
      void sending.abort(true).catch(() => {});
      reject(new ApiError(0, 'badRequest', 'The upload was cancelled. Nothing was kept.'));
    };
    void sending.findPreviousUploads().then(([previous]) => {
      if (previous) sending.resumeFromPreviousUpload(previous);
      sending.start();
    });
  });
  return { done, cancel: () => cancel() };
}
