import { removeImpulse } from '@/server/impulses/impulses';
import { route } from '@/server/http/route';

export const DELETE = route(({ account, params }) => removeImpulse(account.id, params.impulseId));
