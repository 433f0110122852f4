import type { Knex } from 'knex';
import { z } from 'zod';
import { requireAccount, type Account } from '../accounts/session';
import { getConfig } from '../config';
import { database } from '../database/connection';
import { log } from '../log';
import { isDatabaseLost, isDiskFull, isStatementStopped } from '../failures';
import { diskFull, Problem } from '../problem';
import { requireSameOrigin } from './same-origin';

type Params = Record<string, string>;

export interface Asked {
  request: Request;
  /** What this request is done with: handed down to everything that reads or writes. */
  db: Knex;
  account: Account;
  /** Parts of the address, each checked to be an identifier. */
  params: Params;
}

const uuid = z.uuid();
const LIMIT_SECONDS = 30;

/** Answers a problem as `{ error, code }` with its status; unexpected errors are logged and answer 500. */
function answerError(error: unknown, request: Request): Response {
  if (error instanceof Problem) {
    const { message, code, status, retryAfterSeconds } = error;
    return answer({ error: message, code }, status, retryAfterSeconds);
  }
  log().error({ err: error, method: request.method, path: new URL(request.url).pathname }, 'request failed');
  return answerError(problemOf(error), request);
}

/** The answer to an unexpected error. */
function problemOf(error: unknown): Problem {
  if (isDiskFull(error)) return diskFull();
  if (isDatabaseLost(error))
    return new Problem(503, 'The database can’t be reached right now. Nothing was lost; try again in a moment.');
  if (isStatementStopped(error))
    return new Problem(503, 'The database took too long, so this was stopped. Nothing was changed; try again.');
  return new Problem(
    500,
    'Something went wrong on our side. Nothing was lost; try again, and check the server log if it happens again.',
  );
}

function answer(data: object, status = 200, retryAfterSeconds?: number): Response {
  const headers = new Headers({ 'Cache-Control': 'no-store' });
  if (retryAfterSeconds !== undefined) headers.set('Retry-After', String(retryAfterSeconds));
  if (getConfig().secureCookie) headers.set('Strict-Transport-Security', 'max-age=31536000');
  return Response.json(data, { status, headers });
}

/** What a handler gives becomes an answer that no cache keeps, unless it says otherwise itself. */
function respond(given: Response | object | void): Response {
  if (!(given instanceof Response))
    return given === undefined ? respond(new Response(null, { status: 204 })) : answer(given);
  if (!given.headers.has('Cache-Control')) given.headers.set('Cache-Control', 'no-store');
  return given;
}

/** Rejects with a Problem (503) when work takes too long; null sets no limit. */
async function within<T>(seconds: number | null, work: Promise<T>): Promise<T> {
  if (seconds === null) return work;
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(
      () =>
        reject(new Problem(503, 'The server was too busy to answer in time. Nothing was lost; try again in a moment.')),
      seconds * 1000,
    );
  });
  try {
    return await Promise.race([work, late]);
  } finally {
    clearTimeout(timer);
  }
}

/** The answer to HEAD has no body; what would have made it has not begun, and never does. */
async function headOnly({ method }: Request, response: Response): Promise<Response> {
  if (method !== 'HEAD' || !response.body) return response;
  await response.body.cancel();
  return new Response(null, response);
}

/** A route handler for anyone: refuses what another site sends, limits the time, and answers problems. */
export function publicRoute(
  handle: (request: Request, db: Knex) => Promise<Response | object | void>,
  { seconds = LIMIT_SECONDS }: { seconds?: number | null } = {},
) {
  return async (request: Request): Promise<Response> => {
    try {
      requireSameOrigin(request);
      return await headOnly(request, respond(await within(seconds, handle(request, database()))));
    } catch (error) {
      return answerError(error, request);
    }
  };
}

/**
 * A route handler for signed-in accounts: checks besides who is asking and that identifiers are such. `seconds` is the
 * longest it may take; null for what lasts as long as a file takes to arrive.
 */
export function route(
  handle: (asked: Asked) => Promise<Response | object | void>,
  options: { seconds?: number | null } = {},
) {
  return (request: Request, context: { params: Promise<Params | undefined> }): Promise<Response> =>
    publicRoute(async (_, db) => {
      const account = await requireAccount(db);
      // An address without identifiers has none.
      const params = (await context.params) ?? {};
      for (const value of Object.values(params)) {
        if (!uuid.safeParse(value).success) throw new Problem(404, 'This address does not exist.');
      }
      return handle({ request, db, account, params });
    }, options)(request);
}
