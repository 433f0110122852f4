import { changeLinkSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { changeLink, removeLink } from '@/server/listening/links';

export const PATCH = route(async ({ request, account, params }) =>
  changeLink(account.id, params.linkId, await body(request, changeLinkSchema)),
);

export const DELETE = route(({ account, params }) => removeLink(account.id, params.linkId));
