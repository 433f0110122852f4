import { changePasswordSchema } from '@/contracts/account';
import { changePassword } from '@/server/accounts/accounts';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const PUT = route(async ({ db, request, account }) =>
  changePassword(db, account, await body(request, changePasswordSchema)),
);
