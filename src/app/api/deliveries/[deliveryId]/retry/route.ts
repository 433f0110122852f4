import { retryDelivery } from '@/server/deliveries/deliveries';
import { route } from '@/server/http/route';

/** Starts a delivery again that failed or was cancelled. */
export const POST = route(async ({ db, account, params }) => {
  await retryDelivery(db, account.id, params.deliveryId);
});
