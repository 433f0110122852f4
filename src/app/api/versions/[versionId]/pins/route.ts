import { savePinsSchema } from '@/contracts/version';
import { savePins } from '@/server/versions/versions';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PUT = route(async ({ db, request, account, params }) => {
  const { pins } = await body(request, savePinsSchema);
  return savePins(db, account.id, params.versionId, pins);
});
