import { newVersionSchema } from '@/contracts/version';
import { copyVersion } from '@/server/versions/versions';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const POST = route(async ({ request, account, params }) => {
  const { name } = await body(request, newVersionSchema);
  return Response.json(await copyVersion(account.id, params.versionId, name), { status: 201 });
});
