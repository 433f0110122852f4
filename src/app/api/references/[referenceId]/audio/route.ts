import { floatAudio, rateOf } from '@/server/http/float-audio';
import { route } from '@/server/http/route';
import { referenceAudio } from '@/server/references/references';

/** The reference decoded, at the rate that the query asks for. */
export const GET = route(
  async ({ request, account, params }) =>
    floatAudio(request, account.id, await referenceAudio(account.id, params.referenceId), rateOf(request)),
  { seconds: null },
);
