import { removeTrack } from '@/server/bench/mixes';
import { getWorkspace } from '@/server/bench/workspace';
import { route } from '@/server/http/route';

export const GET = route(({ account, params }) => getWorkspace(account.id, params.trackId));

export const DELETE = route(({ account, params }) => removeTrack(account.id, params.trackId));
