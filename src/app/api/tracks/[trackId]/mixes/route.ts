import { receiveNextMix } from '@/server/bench/mixes';
import { route } from '@/server/http/route';
import { sentFile } from '@/server/http/upload';

/** Takes the body of the request as the next mix of the track. */
export const POST = route(async ({ request, account, params }) => {
  const { fileName, body, announcedBytes } = sentFile(request);
  return Response.json(await receiveNextMix(account.id, params.trackId, fileName, body, announcedBytes), {
    status: 201,
  });
});
