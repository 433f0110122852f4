import { listResponses, receiveResponse } from '@/server/bench/responses';
import { route } from '@/server/http/route';
import { sentFile } from '@/server/http/upload';

export const GET = route(({ account }) => listResponses(account.id));

/** Takes the body of the request as an impulse response. */
export const POST = route(
  async ({ request, account }) => {
    return Response.json(await receiveResponse(account.id, sentFile(request)), { status: 201 });
  },
  { seconds: 300 },
);
