import { removeResponse } from '@/server/bench/responses';
import { route } from '@/server/http/route';

export const DELETE = route(({ account, params }) => removeResponse(account.id, params.responseId));
