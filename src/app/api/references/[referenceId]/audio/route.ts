import { floatAudio, rateOf } from '@/server/http/float-audio';
import { route } from '@/server/http/route';
import { referenceAudio } from '@/server/references/references';

/** The reference decoded, at the rate that the query asks for. */
export const GET = route(
  async ({ db, request, account, params }) =>
    floatAudio(db, request, account.id, await referenceAudio(db, account.id, params.referenceId), rateOf(request)),
  { seconds: null },
);
