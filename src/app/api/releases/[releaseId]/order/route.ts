import { orderSchema } from '@/contracts/release';
import { orderTracks } from '@/server/tracks/tracks';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** Puts the tracks in another order. */
export const PUT = route(async ({ db, request, account, params }) => {
  const { ids } = await body(request, orderSchema);
  return orderTracks(db, account.id, params.releaseId, ids);
});
