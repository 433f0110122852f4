import { newProposalSchema } from '@/contracts/proposal';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { addOwnProposal, listProposals } from '@/server/proposals/proposals';

export const GET = route(({ db, account, params }) => listProposals(db, account.id, params.trackId));

export const POST = route(async ({ db, request, account, params }) => {
  const added = await addOwnProposal(db, account.id, params.trackId, await body(request, newProposalSchema));
  return Response.json(added, { status: 201 });
});
