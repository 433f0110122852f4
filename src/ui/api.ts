import { Upload as TusUpload, type DetailedError } from 'tus-js-client';

/** What the server refused, in its own sentence. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

const UNREACHABLE = 'The server can’t be reached. Check that it is running, and try again.';

/** Asks the server for JSON. Throws an ApiError with a sentence; goes to the sign-in page when the session has ended. */
export async function api<T>(
  path: string,
  options: { method?: string; body?: unknown; keepalive?: boolean } = {},
): Promise<T> {
  const { method = 'GET', body, keepalive } = options;
  const response = await fetch(path, {
    method,
    keepalive,
    ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  }).catch(() => {
    throw new ApiError(0, UNREACHABLE);
  });
  if (response.ok) return (response.status === 204 ? undefined : await response.json()) as T;
  if (response.status === 401 && !path.endsWith('/session')) window.location.assign('/sign-in');
  const { error } = (await response.json().catch(() => ({}))) as { error?: string };
  throw new ApiError(response.status, error ?? `The server answered ${response.status}. Try again.`);
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

function sentence(error: Error | DetailedError): ApiError {
  const response = 'originalResponse' in error ? error.originalResponse : null;
  if (!response) return new ApiError(0, UNREACHABLE);
  try {
    const { error: said } = JSON.parse(response.getBody()) as { error?: string };
    if (said) return new ApiError(response.getStatus(), said);
  } catch {
    // Said below.
  }
  return new ApiError(response.getStatus(), `The server answered ${response.getStatus()}. Try again.`);
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
      onError: (error) => reject(sentence(error)),
    });
    cancel = () => {
      void sending.abort(true).catch(() => {});
      reject(new ApiError(0, 'The upload was cancelled. Nothing was kept.'));
    };
    void sending.findPreviousUploads().then(([previous]) => {
      if (previous) sending.resumeFromPreviousUpload(previous);
      sending.start();
    });
  });
  return { done, cancel: () => cancel() };
}
