import { decideSchema } from '@/contracts/proposal';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { decideProposal } from '@/server/proposals/proposals';

/** Takes a proposal as one step, or refuses it. */
export const POST = route(async ({ db, request, account, params }) => {
  const version = await decideProposal(db, account.id, params.proposalId, await body(request, decideSchema));
  return version ?? undefined;
});
