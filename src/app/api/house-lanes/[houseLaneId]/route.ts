import { putHouseLaneSchema } from '@/contracts/house-lane';
import { changeHouseLane, deleteHouseLane } from '@/server/house-lanes/house-lanes';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PUT = route(async ({ db, request, account, params }) =>
  changeHouseLane(db, account.id, params.houseLaneId, await body(request, putHouseLaneSchema)),
);

export const DELETE = route(({ db, account, params }) => deleteHouseLane(db, account.id, params.houseLaneId));
