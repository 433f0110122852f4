import { passphraseSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { publicRoute } from '@/server/http/route';
import { enterPassphrase } from '@/server/listening/visitor';

export const POST = (request: Request, { params }: { params: Promise<{ token: string }> }) =>
  publicRoute(async (_, db) => {
    const { passphrase } = await body(request, passphraseSchema);
    await enterPassphrase(db, request, (await params).token, passphrase);
  })(request);
