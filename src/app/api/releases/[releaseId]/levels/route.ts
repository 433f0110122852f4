import { levelledReleaseSchema, levelReleaseSchema } from '@/contracts/release';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { levelRelease, undoLevelling } from '@/server/releases/level-release';

export const POST = route(async ({ db, request, account, params }) =>
  levelRelease(db, account.id, params.releaseId, await body(request, levelReleaseSchema)),
);

/** Takes it back. */
export const DELETE = route(async ({ db, request, account, params }) =>
  undoLevelling(db, account.id, params.releaseId, await body(request, levelledReleaseSchema)),
);
