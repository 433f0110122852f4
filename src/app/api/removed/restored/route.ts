import { removableSchema } from '@/contracts/release';
import { restore } from '@/server/removed/removed';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** Brings back something that was deleted. */
export const POST = route(async ({ db, request, account }) =>
  restore(db, account.id, await body(request, removableSchema)),
);
