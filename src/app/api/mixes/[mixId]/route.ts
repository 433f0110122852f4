import { removeMix } from '@/server/mixes/mixes';
import { route } from '@/server/http/route';

export const DELETE = route(({ db, account, params }) => removeMix(db, account.id, params.mixId));
