import { putOnShelfSchema } from '@/contracts/destination';
import { changeOnShelf, removeFromShelf } from '@/server/destinations/shelf';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PUT = route(async ({ request, account, params }) =>
  changeOnShelf(account.id, params.shelfId, await body(request, putOnShelfSchema)),
);

export const DELETE = route(({ account, params }) => removeFromShelf(account.id, params.shelfId));
