import { beginBlindTest } from '@/server/blind-tests/blind-tests';
import { route } from '@/server/http/route';

/** Begins the test: draws which letter is which. */
export const POST = route(({ db, account, params }) => beginBlindTest(db, account.id, params.testId));
