import { removeTrack } from '@/server/mixes/mixes';
import { getWorkspace } from '@/server/tracks/tracks';
import { route } from '@/server/http/route';

export const GET = route(({ account, params }) => getWorkspace(account.id, params.trackId));

export const DELETE = route(({ account, params }) => removeTrack(account.id, params.trackId));
