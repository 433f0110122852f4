import { newDeliveriesSchema } from '@/contracts/delivery';
import { startDeliveries } from '@/server/deliveries/deliveries';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const POST = route(async ({ db, request, account, params }) =>
  Response.json(await startDeliveries(db, account.id, params.releaseId, await body(request, newDeliveriesSchema)), {
    status: 202,
  }),
);
