import { removeEncodeCheck } from '@/server/encodes/encode-checks';
import { route } from '@/server/http/route';

export const DELETE = route(({ account, params }) => removeEncodeCheck(account.id, params.encodeId));
