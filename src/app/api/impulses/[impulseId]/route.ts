import { removeImpulse } from '@/server/impulses/impulses';
import { route } from '@/server/http/route';

export const DELETE = route(({ db, account, params }) => removeImpulse(db, account.id, params.impulseId));
