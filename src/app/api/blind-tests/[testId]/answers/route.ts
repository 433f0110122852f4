import { blindAnswerSchema } from '@/contracts/blind-test';
import { answerBlindTest } from '@/server/blind-tests/blind-tests';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** Answers the trial that is due. */
export const POST = route(async ({ db, request, account, params }) =>
  answerBlindTest(db, account.id, params.testId, await body(request, blindAnswerSchema)),
);
