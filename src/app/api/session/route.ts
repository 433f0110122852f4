import { beginSession, endSession } from '@/server/accounts/session';
import { signInSchema } from '@/exchange/account';
import { signIn } from '@/server/accounts/sign-in';
import { answerError, body } from '@/server/http/route';

export async function POST(request: Request): Promise<Response> {
  try {
    const account = await signIn(await body(request, signInSchema));
    await beginSession(account);
    return Response.json({ name: account.name });
  } catch (error) {
    return answerError(error, request);
  }
}

export async function DELETE(request: Request): Promise<Response> {
  try {
    await endSession();
    return new Response(null, { status: 204 });
  } catch (error) {
    return answerError(error, request);
  }
}
