import { newProposalSchema } from '@/contracts/proposal';
import { body } from '@/server/http/body';
import { listeningRoute } from '@/server/listening/listening-route';
import { heardTrack } from '@/server/listening/visitor';
import { requireHandles } from '@/server/proposals/handles-page';
import { addProposal } from '@/server/proposals/proposals';

export const POST = listeningRoute(async ({ db, request, link, params }) => {
  requireHandles(link);
  const { trackId } = heardTrack(link, params.trackId);
  const added = await addProposal(db, trackId, link.id, await body(request, newProposalSchema));
  return Response.json(added, { status: 201 });
});
