import { putHouseLaneSchema } from '@/contracts/house-lane';
import { addHouseLane, listHouseLanes } from '@/server/house-lanes/house-lanes';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** The house lanes that the account keeps. */
export const GET = route(({ account }) => listHouseLanes(account.id));

export const POST = route(async ({ request, account }) =>
  Response.json(await addHouseLane(account.id, await body(request, putHouseLaneSchema)), { status: 201 }),
);
