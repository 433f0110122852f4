import { getTrackDetails } from '@/server/tracks/track-details';
import { removeTrack } from '@/server/tracks/tracks';
import { route } from '@/server/http/route';

export const GET = route(({ account, params }) => getTrackDetails(account.id, params.trackId));

export const DELETE = route(({ account, params }) => removeTrack(account.id, params.trackId));
