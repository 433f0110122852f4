import { listeningRoute } from '@/server/listening/listening-route';
import { savedTrack } from '@/server/listening/stream-file';

export const GET = listeningRoute(({ db, request, link, params }) => savedTrack(db, request, link, params.trackId));
