import { removeEncodeCheck } from '@/server/encodes/encode-checks';
import { route } from '@/server/http/route';

export const DELETE = route(({ db, account, params }) => removeEncodeCheck(db, account.id, params.encodeId));
