import { newLinkSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { createLink, listLinks } from '@/server/listening/links';

export const GET = route(({ account, params }) => listLinks(account.id, params.releaseId));

export const POST = route(async ({ request, account, params }) => {
  const created = await createLink(account.id, params.releaseId, await body(request, newLinkSchema));
  return Response.json(created, { status: 201 });
});
