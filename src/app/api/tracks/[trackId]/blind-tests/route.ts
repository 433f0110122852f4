import { newBlindTestSchema } from '@/contracts/blind-test';
import { createBlindTest, listBlindTests } from '@/server/blind-tests/blind-tests';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const GET = route(({ db, account, params }) => listBlindTests(db, account.id, params.trackId));

/** Prepares a blind test. */
export const POST = route(async ({ db, request, account, params }) =>
  Response.json(await createBlindTest(db, account.id, params.trackId, await body(request, newBlindTestSchema)), {
    status: 201,
  }),
);
