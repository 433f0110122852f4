import { requireAccount } from '@/server/accounts/session';
import { publicRoute } from '@/server/http/route';
import { answerUpload } from '@/server/uploads';

/** A piece of a file takes as long as it takes. */
const handler = publicRoute(async (request, db) => answerUpload(db, (await requireAccount(db)).id, request), {
  seconds: null,
});

export { handler as DELETE, handler as HEAD, handler as PATCH, handler as POST };
