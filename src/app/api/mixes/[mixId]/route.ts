import { removeMix } from '@/server/bench/mixes';
import { route } from '@/server/http/route';

export const DELETE = route(({ account, params }) => removeMix(account.id, params.mixId));
