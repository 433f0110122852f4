import { removeMix } from '@/server/mixes/mixes';
import { route } from '@/server/http/route';

export const DELETE = route(({ account, params }) => removeMix(account.id, params.mixId));
