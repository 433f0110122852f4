import { candidateListSchema } from '@/contracts/candidate';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { saveCandidates } from '@/server/tracks/candidates';

/** Saves what the listening bar offers. */
export const PUT = route(async ({ db, request, account, params }) =>
  saveCandidates(db, account.id, params.trackId, await body(request, candidateListSchema)),
);
