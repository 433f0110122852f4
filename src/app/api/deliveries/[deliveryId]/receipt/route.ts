import { create as contentDisposition } from 'content-disposition';
import { ownDelivery } from '@/server/deliveries/deliveries';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';

export const GET = route(async ({ account, params }) => {
  const { receipt, fileName } = await ownDelivery(account.id, params.deliveryId);
  if (!receipt) throw new Problem(409, 'This delivery has no receipt: it is not finished, or it failed.');
  return new Response(`${JSON.stringify(receipt, null, 2)}\n`, {
    headers: {
      'Content-Type': 'application/json',
      'Content-Disposition': contentDisposition(`${fileName}.receipt.json`),
    },
  });
});
