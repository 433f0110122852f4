import { encodeAudio } from '@/server/encodes/encode-checks';
import { floatAudio, rateOf } from '@/server/http/float-audio';
import { route } from '@/server/http/route';

/** The encode decoded, in time with its master, at the rate that the query asks for. */
export const GET = route(
  async ({ db, request, account, params }) =>
    floatAudio(db, request, account.id, await encodeAudio(db, account.id, params.encodeId), rateOf(request)),
  { seconds: null },
);
