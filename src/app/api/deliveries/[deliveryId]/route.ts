import { cancelDelivery, ownDelivery } from '@/server/deliveries/deliveries';
import { route } from '@/server/http/route';

export const GET = route(async ({ account, params }) => {
  const { fileHash: _, ...delivery } = await ownDelivery(account.id, params.deliveryId);
  return delivery;
});

/** Cancels. */
export const DELETE = route(({ account, params }) => cancelDelivery(account.id, params.deliveryId));
