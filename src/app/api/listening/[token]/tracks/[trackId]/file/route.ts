import { listeningRoute } from '@/server/listening/listening-route';
import { savedTrack } from '@/server/listening/stream-file';

export const GET = listeningRoute(({ request, link, params }) => savedTrack(request, link, params.trackId));
