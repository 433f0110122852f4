import { stepsOf } from '@/server/versions/versions';
import { route } from '@/server/http/route';

export const GET = route(({ account, params }) => stepsOf(account.id, params.versionId));
