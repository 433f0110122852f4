import { preferenceAnswerSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { listeningRoute } from '@/server/listening/listening-route';
import { answerPreference } from '@/server/listening/preference';

export const POST = listeningRoute(async ({ db, request, link, params }) =>
  answerPreference(db, link, params.testId, await body(request, preferenceAnswerSchema)),
);
