import { orderSchema } from '@/contracts/release';
import { orderVersions } from '@/server/versions/versions';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** Puts the versions in another order. */
export const PUT = route(async ({ db, request, account, params }) => {
  const { ids } = await body(request, orderSchema);
  return orderVersions(db, account.id, params.trackId, ids);
});
