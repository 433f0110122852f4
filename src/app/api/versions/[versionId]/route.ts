import { newVersionSchema } from '@/contracts/version';
import { removeVersion, renameVersion } from '@/server/versions/versions';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PATCH = route(async ({ db, request, account, params }) => {
  const { name } = await body(request, newVersionSchema);
  return renameVersion(db, account.id, params.versionId, name);
});

export const DELETE = route(({ db, account, params }) => removeVersion(db, account.id, params.versionId));
