import { blindTest, removeBlindTest } from '@/server/blind-tests/blind-tests';
import { route } from '@/server/http/route';

export const GET = route(({ db, account, params }) => blindTest(db, account.id, params.testId));

export const DELETE = route(({ db, account, params }) => removeBlindTest(db, account.id, params.testId));
