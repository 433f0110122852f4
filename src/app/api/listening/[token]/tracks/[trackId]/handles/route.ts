import { listeningRoute } from '@/server/listening/listening-route';
import { linkHandles } from '@/server/proposals/handles-page';

export const GET = listeningRoute(({ db, link, params }) => linkHandles(db, link, params.trackId));
