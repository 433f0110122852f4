import { newEncodeCheckSchema } from '@/contracts/encode-check';
import { listEncodeChecks, startEncodeCheck } from '@/server/encodes/encode-checks';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** Checks of the version's lane as it is saved. */
export const GET = route(({ db, account, params }) => listEncodeChecks(db, account.id, params.versionId));

export const POST = route(async ({ db, request, account, params }) =>
  Response.json(await startEncodeCheck(db, account.id, params.versionId, await body(request, newEncodeCheckSchema)), {
    status: 202,
  }),
);
