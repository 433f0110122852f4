import { newDeliverySchema } from '@/contracts/delivery';
import { startDelivery } from '@/server/deliveries/deliveries';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const POST = route(async ({ db, request, account, params }) =>
  Response.json(await startDelivery(db, account.id, params.trackId, await body(request, newDeliverySchema)), {
    status: 202,
  }),
);
