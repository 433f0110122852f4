import { receiveTrack } from '@/server/tracks/tracks';
import { route } from '@/server/http/route';
import { withSentFile } from '@/server/uploads';

/** Takes an upload, or the body of the request, as the first mix of a new track. */
export const POST = route(
  async ({ db, request, account, params }) =>
    Response.json(
      await withSentFile(db, account.id, request, (sent) => receiveTrack(db, account.id, params.releaseId, sent)),
      {
        status: 201,
      },
    ),
  { seconds: null },
);
