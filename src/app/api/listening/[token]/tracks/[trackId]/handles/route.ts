import { listeningRoute } from '@/server/listening/listening-route';
import { linkHandles } from '@/server/proposals/handles-page';

export const GET = listeningRoute(({ link, params }) => linkHandles(link, params.trackId));
