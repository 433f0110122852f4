import { newLinkSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { createLink, listLinks } from '@/server/listening/links';

export const GET = route(({ db, account, params }) => listLinks(db, account.id, params.releaseId));

export const POST = route(async ({ db, request, account, params }) => {
  const created = await createLink(db, account.id, params.releaseId, await body(request, newLinkSchema));
  return Response.json(created, { status: 201 });
});
