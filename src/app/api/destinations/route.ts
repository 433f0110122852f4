import { putOnShelfSchema } from '@/contracts/destination';
import { addToShelf, listShelf } from '@/server/destinations/shelf';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** The destinations on the account's shelf. */
export const GET = route(({ account }) => listShelf(account.id));

export const POST = route(async ({ request, account }) =>
  Response.json(await addToShelf(account.id, await body(request, putOnShelfSchema)), { status: 201 }),
);
