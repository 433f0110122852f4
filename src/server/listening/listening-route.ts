import type { Knex } from 'knex';
import { z } from 'zod';
import { publicRoute } from '../http/route';
import { Problem } from '../problem';
import type { LinkRow } from './links';
import { openLink } from './visitor';

type Params = Record<string, string>;

interface Asked {
  request: Request;
  /** What this request is done with: handed down to everything that reads or writes. */
  db: Knex;
  link: LinkRow;
  /** Parts of the address besides the token. */
  params: Params;
}

const uuid = z.uuid();

/** A route handler for whoever has a working link; parts of the address that end in `Id` are checked to be identifiers. */
export function listeningRoute(handle: (asked: Asked) => Promise<Response | object | void>) {
  return (request: Request, context: { params: Promise<Params> }): Promise<Response> =>
    publicRoute(async (_, db) => {
      const { token, ...params } = await context.params;
      const link = await openLink(db, request, token);
      for (const [name, value] of Object.entries(params))
        if (name.endsWith('Id') && !uuid.safeParse(value).success)
          throw new Problem(404, 'This address does not exist.');
      return handle({ request, db, link, params });
    })(request);
}
