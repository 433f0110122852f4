import { putHouseLaneSchema } from '@/contracts/house-lane';
import { addHouseLane, listHouseLanes } from '@/server/house-lanes/house-lanes';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** The house lanes that the account keeps. */
export const GET = route(({ db, account }) => listHouseLanes(db, account.id));

export const POST = route(async ({ db, request, account }) =>
  Response.json(await addHouseLane(db, account.id, await body(request, putHouseLaneSchema)), { status: 201 }),
);
