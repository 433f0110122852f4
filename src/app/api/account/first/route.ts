import { newAccountSchema } from '@/contracts/account';
import { addFirstAccount } from '@/server/accounts/accounts';
import { beginSession } from '@/server/accounts/session';
import { body } from '@/server/http/body';
import { publicRoute } from '@/server/http/route';

/** Adds the first account of an installation and signs it in. */
export const POST = publicRoute(async (request, db) => {
  const account = await body(request, newAccountSchema);
  await beginSession(db, await addFirstAccount(db, account));
  return Response.json({ name: account.name }, { status: 201 });
});
