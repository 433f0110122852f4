import { signInSchema } from '@/contracts/account';
import { endSession } from '@/server/accounts/session';
import { signIn } from '@/server/accounts/sign-in';
import { clientAddress } from '@/server/http/address';
import { body } from '@/server/http/body';
import { publicRoute } from '@/server/http/route';

export const POST = publicRoute(async (request, db) => {
  const { name } = await signIn(db, await body(request, signInSchema), clientAddress(request));
  return { name };
});

export const DELETE = publicRoute((_, db) => endSession(db));
