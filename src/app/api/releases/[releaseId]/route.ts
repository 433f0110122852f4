import { getRelease } from '@/server/releases/releases';
import { route } from '@/server/http/route';

export const GET = route(({ account, params }) => getRelease(account.id, params.releaseId));
