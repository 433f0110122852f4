import { goSchema } from '@/contracts/version';
import { stepThrough } from '@/server/versions/versions';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const POST = route(async ({ db, request, account, params }) =>
  stepThrough(db, account.id, params.versionId, -1, (await body(request, goSchema)).after),
);
