import { z } from 'zod';
import { requireAccount, type Account } from '../accounts/session';
import { log } from '../log';
import { Problem } from '../problem';

type Params = Record<string, string>;

export interface Asked {
  request: Request;
  account: Account;
  /** Parts of the address, each checked to be an identifier. */
  params: Params;
}

const uuid = z.uuid();

/** Answers a problem as `{ error }` with its status; what nobody foresaw is logged and answers 500. */
export function answerError(error: unknown, request: Request): Response {
  if (error instanceof Problem) return Response.json({ error: error.message }, { status: error.status });
  log().error({ err: error, method: request.method, path: new URL(request.url).pathname }, 'request failed');
  const lost =
    error instanceof Error &&
    /ECONNREFUSED|ECONNRESET|terminat|Timeout acquiring|shutting down|starting up|57P0[123]/i.test(
      `${error.message} ${(error as { code?: string }).code}`,
    );
  return lost
    ? Response.json(
        { error: 'The database cannot be reached just now. Nothing was lost; try again in a moment.' },
        { status: 503 },
      )
    : Response.json(
        { error: 'Something went wrong on the server. Nothing was lost; try again, and look at the log if it stays.' },
        { status: 500 },
      );
}

/** A route handler for signed-in accounts: checks who is asking and that identifiers are such, and answers problems. */
export function route(handle: (asked: Asked) => Promise<Response | object | void>) {
  return async (request: Request, context: { params: Promise<Params | undefined> }): Promise<Response> => {
    try {
      const account = await requireAccount();
      // An address without identifiers has none.
      const params = (await context.params) ?? {};
      for (const value of Object.values(params)) {
        if (!uuid.safeParse(value).success) throw new Problem(404, 'This address does not exist.');
      }
      const answer = await handle({ request, account, params });
      if (answer instanceof Response) return answer;
      return answer === undefined ? new Response(null, { status: 204 }) : Response.json(answer);
    } catch (error) {
      return answerError(error, request);
    }
  };
}

/** The JSON body of a request, checked. Throws a Problem: 400 when it is no JSON, 422 with a sentence for each thing that is wrong. */
export async function body<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  const data: unknown = await request.json().catch(() => {
    throw new Problem(400, 'The request does not hold JSON.');
  });
  const result = schema.safeParse(data);
  if (result.success) return result.data;
  throw new Problem(
    422,
    result.error.issues
      .map(({ path, message }) => (path.length > 0 ? `${path.join('.')}: ${message}` : message))
      .join(' '),
  );
}
