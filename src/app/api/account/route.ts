import { changeAccountSchema, deleteAccountSchema } from '@/contracts/account';
import { accountDetail, changeAccount, deleteAccount } from '@/server/accounts/accounts';
import { endSession } from '@/server/accounts/session';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const GET = route(({ db, account }) => accountDetail(db, account));

/** Changes name or address. */
export const PATCH = route(async ({ db, request, account }) =>
  changeAccount(db, account, await body(request, changeAccountSchema)),
);

/** Deletes the account with everything in it. */
export const DELETE = route(async ({ db, request, account }) => {
  const { password } = await body(request, deleteAccountSchema);
  await deleteAccount(db, account, password);
  await endSession(db);
});
