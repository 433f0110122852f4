import { cancelDelivery, ownDelivery } from '@/server/deliveries/deliveries';
import { route } from '@/server/http/route';

export const GET = route(async ({ db, account, params }) => {
  const { fileHash: _, ...delivery } = await ownDelivery(db, account.id, params.deliveryId);
  return delivery;
});

/** Cancels. */
export const DELETE = route(({ db, account, params }) => cancelDelivery(db, account.id, params.deliveryId));
