import { changeReleaseSchema } from '@/contracts/release';
import { changeRelease, removeRelease } from '@/server/releases/releases';
import { getReleaseDetails } from '@/server/releases/release-details';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const GET = route(({ db, account, params }) => getReleaseDetails(db, account.id, params.releaseId));

export const PATCH = route(async ({ db, request, account, params }) =>
  changeRelease(db, account.id, params.releaseId, await body(request, changeReleaseSchema)),
);

export const DELETE = route(({ db, account, params }) => removeRelease(db, account.id, params.releaseId));
