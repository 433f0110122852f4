import { levelledReleaseSchema, levelReleaseSchema } from '@/contracts/release';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { levelRelease, undoLevelling } from '@/server/releases/level-release';

export const POST = route(async ({ request, account, params }) =>
  levelRelease(account.id, params.releaseId, await body(request, levelReleaseSchema)),
);

/** Takes it back. */
export const DELETE = route(async ({ request, account, params }) =>
  undoLevelling(account.id, params.releaseId, await body(request, levelledReleaseSchema)),
);
