import { changeTrackSchema } from '@/contracts/release';
import { getTrackDetails } from '@/server/tracks/track-details';
import { changeTrack, removeTrack } from '@/server/tracks/tracks';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

export const GET = route(({ db, account, params }) => getTrackDetails(db, account.id, params.trackId));

export const PATCH = route(async ({ db, request, account, params }) =>
  changeTrack(db, account.id, params.trackId, await body(request, changeTrackSchema)),
);

export const DELETE = route(({ db, account, params }) => removeTrack(db, account.id, params.trackId));
