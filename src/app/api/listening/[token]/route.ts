import { listeningPage } from '@/server/listening/listening-page';
import { listeningRoute } from '@/server/listening/listening-route';

export const GET = listeningRoute(({ db, link }) => listeningPage(db, link));
