import { newPassageEncodesSchema } from '@/contracts/encode-check';
import { encodePassage } from '@/server/encodes/passage-encodes';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** Figures of the loudest passage, and of encodes of it, of the version's lane as it is saved. */
export const POST = route(async ({ db, request, account, params }) =>
  encodePassage(db, account.id, params.versionId, await body(request, newPassageEncodesSchema), request.signal),
);
