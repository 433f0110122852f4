import { saveLaneSchema } from '@/contracts/version';
import { saveLane } from '@/server/versions/versions';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PUT = route(async ({ db, request, account, params }) =>
  saveLane(db, account.id, params.versionId, await body(request, saveLaneSchema)),
);
