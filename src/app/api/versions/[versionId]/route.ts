import { newVersionSchema } from '@/contracts/version';
import { removeVersion, renameVersion } from '@/server/versions/versions';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PATCH = route(async ({ request, account, params }) => {
  const { name } = await body(request, newVersionSchema);
  return renameVersion(account.id, params.versionId, name);
});

export const DELETE = route(({ account, params }) => removeVersion(account.id, params.versionId));
