import { changeReferenceSchema } from '@/contracts/reference';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { removeReference, renameReference } from '@/server/references/references';

/** Gives a reference another title. */
export const PATCH = route(async ({ db, request, account, params }) => {
  const { title } = await body(request, changeReferenceSchema);
  return renameReference(db, account.id, params.referenceId, title);
});

export const DELETE = route(({ db, account, params }) => removeReference(db, account.id, params.referenceId));
