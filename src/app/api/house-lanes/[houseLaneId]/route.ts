import { putHouseLaneSchema } from '@/contracts/house-lane';
import { changeHouseLane, deleteHouseLane } from '@/server/house-lanes/house-lanes';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PUT = route(async ({ request, account, params }) =>
  changeHouseLane(account.id, params.houseLaneId, await body(request, putHouseLaneSchema)),
);

export const DELETE = route(({ account, params }) => deleteHouseLane(account.id, params.houseLaneId));
