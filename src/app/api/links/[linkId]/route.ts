import { changeLinkSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { changeLink, removeLink } from '@/server/listening/links';

export const PATCH = route(async ({ db, request, account, params }) =>
  changeLink(db, account.id, params.linkId, await body(request, changeLinkSchema)),
);

export const DELETE = route(({ db, account, params }) => removeLink(db, account.id, params.linkId));
