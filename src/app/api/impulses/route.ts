import { listImpulses, receiveImpulse } from '@/server/impulses/impulses';
import { route } from '@/server/http/route';
import { sentFile } from '@/server/http/upload';

export const GET = route(({ db, account }) => listImpulses(db, account.id));

/** Takes the body of the request as an impulse response. */
export const POST = route(
  async ({ db, request, account }) => {
    return Response.json(await receiveImpulse(db, account.id, sentFile(request)), { status: 201 });
  },
  { seconds: 300 },
);
