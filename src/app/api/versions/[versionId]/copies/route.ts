import { copyVersionSchema } from '@/contracts/version';
import { copyVersion } from '@/server/versions/versions';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const POST = route(async ({ db, request, account, params }) => {
  const order = await body(request, copyVersionSchema);
  return Response.json(await copyVersion(db, account.id, params.versionId, order), { status: 201 });
});
