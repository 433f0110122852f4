import { route } from '@/server/http/route';
import { ownHandles } from '@/server/proposals/handles-page';

export const GET = route(({ db, account, params }) => ownHandles(db, account.id, account.name, params.trackId));
