import { changeReleaseSchema } from '@/contracts/release';
import { changeRelease, removeRelease } from '@/server/releases/releases';
import { getReleaseDetails } from '@/server/releases/release-details';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const GET = route(({ account, params }) => getReleaseDetails(account.id, params.releaseId));

export const PATCH = route(async ({ request, account, params }) =>
  changeRelease(account.id, params.releaseId, await body(request, changeReleaseSchema)),
);

export const DELETE = route(({ account, params }) => removeRelease(account.id, params.releaseId));
