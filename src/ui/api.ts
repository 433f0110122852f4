/** What the server refused, in its own sentence. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

const UNREACHABLE = 'The server cannot be reached. Check that it runs, and try again.';

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
  /** Resolves when the server has taken the file; rejects with a sentence. */
  done: Promise<unknown>;
  cancel(): void;
}

/** Sends a file with progress; fetch cannot tell how much of a body has gone. */
export function upload(path: string, file: File, onProgress: (share: number) => void): Upload {
  const request = new XMLHttpRequest();
  const done = new Promise<unknown>((resolve, reject) => {
    request.open('POST', path);
    request.upload.onprogress = ({ loaded, total }) => onProgress(total > 0 ? loaded / total : 0);
    request.onload = () => {
      const answer = JSON.parse(request.responseText || '{}') as { error?: string };
      if (request.status < 300) resolve(answer);
      else reject(new ApiError(request.status, answer.error ?? `The server answered ${request.status}.`));
    };
    request.onerror = () => reject(new ApiError(0, UNREACHABLE));
    request.onabort = () => reject(new ApiError(0, 'The upload was cancelled. Nothing was kept.'));
    request.send(file);
  });
  return { done, cancel: () => request.abort() };
}
