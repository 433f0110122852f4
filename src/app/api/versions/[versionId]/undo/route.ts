import { stepThrough } from '@/server/versions/versions';
import { route } from '@/server/http/route';

export const POST = route(({ account, params }) => stepThrough(account.id, params.versionId, -1));
