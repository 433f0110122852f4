import { receiveTrack } from '@/server/bench/mixes';
import { route } from '@/server/http/route';
import { sentFile } from '@/server/http/upload';

/** Takes the body of the request as the first mix of a new track. */
export const POST = route(async ({ request, account, params }) => {
  const { fileName, body, announcedBytes } = sentFile(request);
  return Response.json(await receiveTrack(account.id, params.releaseId, fileName, body, announcedBytes), {
    status: 201,
  });
});
