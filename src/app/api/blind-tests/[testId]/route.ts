import { blindTest, removeBlindTest } from '@/server/blind-tests/blind-tests';
import { route } from '@/server/http/route';

export const GET = route(({ account, params }) => blindTest(account.id, params.testId));

export const DELETE = route(({ account, params }) => removeBlindTest(account.id, params.testId));
