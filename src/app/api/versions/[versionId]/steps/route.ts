import { stepsOf } from '@/server/versions/versions';
import { route } from '@/server/http/route';

export const GET = route(({ db, account, params }) => stepsOf(db, account.id, params.versionId));
