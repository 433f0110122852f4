import { putOnShelfSchema } from '@/contracts/destination';
import { addToShelf, listShelf } from '@/server/destinations/shelf';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** The destinations on the account's shelf. */
export const GET = route(({ db, account }) => listShelf(db, account.id));

export const POST = route(async ({ db, request, account }) =>
  Response.json(await addToShelf(db, account.id, await body(request, putOnShelfSchema)), { status: 201 }),
);
