import { countVisit } from '@/server/listening/listening-page';
import { listeningRoute } from '@/server/listening/listening-route';

export const POST = listeningRoute(({ db, link }) => countVisit(db, link));
