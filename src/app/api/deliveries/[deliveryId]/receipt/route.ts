import { receiptOf } from '@/server/deliveries/receipts';
import { route } from '@/server/http/route';

/** The receipt of a finished file: as JSON, or in the form that is asked for. */
export const GET = route(({ db, request, account, params }) =>
  receiptOf(db, account.id, params.deliveryId, new URL(request.url).searchParams.get('form') ?? 'json'),
);
