import { receiveNextMix } from '@/server/mixes/mixes';
import { route } from '@/server/http/route';
import { withSentFile } from '@/server/uploads';

/** Takes an upload, or the body of the request, as the next mix of the track. */
export const POST = route(
  async ({ db, request, account, params }) =>
    Response.json(
      await withSentFile(db, account.id, request, (sent) => receiveNextMix(db, account.id, params.trackId, sent)),
      {
        status: 201,
      },
    ),
  { seconds: null },
);
