import { newProposalSchema } from '@/contracts/proposal';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { addOwnProposal, listProposals } from '@/server/proposals/proposals';

export const GET = route(({ account, params }) => listProposals(account.id, params.trackId));

export const POST = route(async ({ request, account, params }) => {
  const added = await addOwnProposal(account.id, params.trackId, await body(request, newProposalSchema));
  return Response.json(added, { status: 201 });
});
