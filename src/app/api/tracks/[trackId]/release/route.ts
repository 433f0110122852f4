import { moveTrackSchema } from '@/contracts/release';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { moveTrack } from '@/server/tracks/tracks';

/** Moves it to another release. */
export const PUT = route(async ({ db, request, account, params }) => {
  const { releaseId } = await body(request, moveTrackSchema);
  return moveTrack(db, account.id, params.trackId, releaseId);
});
