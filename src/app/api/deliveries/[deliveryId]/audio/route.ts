import { deliveryAudio } from '@/server/deliveries/deliveries';
import { floatAudio, rateOf } from '@/server/http/float-audio';
import { route } from '@/server/http/route';

/** The finished file decoded, in the time of its mix, at the rate that the query asks for. */
export const GET = route(
  async ({ db, request, account, params }) =>
    floatAudio(db, request, account.id, await deliveryAudio(db, account.id, params.deliveryId), rateOf(request)),
  { seconds: null },
);
