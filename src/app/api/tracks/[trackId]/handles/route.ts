import { route } from '@/server/http/route';
import { ownHandles } from '@/server/proposals/handles-page';

export const GET = route(({ account, params }) => ownHandles(account.id, account.name, params.trackId));
