import { putOnShelfSchema } from '@/contracts/destination';
import { changeOnShelf, removeFromShelf } from '@/server/destinations/shelf';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PUT = route(async ({ db, request, account, params }) =>
  changeOnShelf(db, account.id, params.shelfId, await body(request, putOnShelfSchema)),
);

export const DELETE = route(({ db, account, params }) => removeFromShelf(db, account.id, params.shelfId));
