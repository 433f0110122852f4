import type { problemSchema } from '../../contracts/problem';
import type { z } from 'zod';

type Told = z.infer<typeof problemSchema>;

/** What the server refused, in its own sentence. */
export class AskError extends Error {
  constructor(
    /** HTTP status; 0 when there was no answer. */
    readonly status: number,
    message: string,
  ) {
    super(message);
  }

  /** Whether the same can be taken later: no connection, nobody signed in or no passphrase given, too much at once, or a fault of the server. */
  get passing(): boolean {
    return [0, 401, 429].includes(this.status) || this.status >= 500;
  }
}

async function answerTo(path: string, options: RequestInit): Promise<Response> {
  return fetch(path, options).catch(() => {
    throw new AskError(0, 'There is no connection. Try again when there is one.');
  });
}

function refusal({ status }: Response, given: unknown): AskError {
  const told = given as Partial<Told> | null;
  return new AskError(status, told?.error ?? `The server answered ${status}. Try again.`);
}

/**
 * Asks the server and gives its JSON; null when it has none. The listening page has no schemas on board: they weigh more than
 * everything else on it. Throws an AskError with a sentence.
 */
export async function ask<Answer>(path: string, method = 'GET', body?: unknown): Promise<Answer> {
  const answer = await answerTo(path, {
    method,
    ...(body !== undefined && { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  });
  const given: unknown = answer.status === 204 ? null : await answer.json().catch(() => null);
  if (answer.ok) return given as Answer;
  throw refusal(answer, given);
}

/** Asks the server for a file. Throws an AskError with a sentence. */
export async function askBytes(path: string, signal: AbortSignal): Promise<Blob> {
  const answer = await answerTo(path, { signal });
  if (answer.ok) return answer.blob();
  throw refusal(answer, await answer.json().catch(() => null));
}
