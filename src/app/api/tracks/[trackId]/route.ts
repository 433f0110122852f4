import { changeTrackSchema } from '@/contracts/release';
import { getTrackDetails } from '@/server/tracks/track-details';
import { changeTrack, removeTrack } from '@/server/tracks/tracks';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const GET = route(({ account, params }) => getTrackDetails(account.id, params.trackId));

export const PATCH = route(async ({ request, account, params }) =>
  changeTrack(account.id, params.trackId, await body(request, changeTrackSchema)),
);

export const DELETE = route(({ account, params }) => removeTrack(account.id, params.trackId));
