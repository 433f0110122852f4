import { chosenMixSchema } from '@/contracts/release';
import { chooseMix } from '@/server/mixes/mixes';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** Chooses the mix that is used. */
export const PUT = route(async ({ db, request, account, params }) => {
  const { mixId } = await body(request, chosenMixSchema);
  return chooseMix(db, account.id, params.trackId, mixId);
});
