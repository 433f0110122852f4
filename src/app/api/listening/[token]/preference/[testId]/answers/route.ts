import { preferenceAnswerSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { listeningRoute } from '@/server/listening/listening-route';
import { answerPreference } from '@/server/listening/preference';

export const POST = listeningRoute(async ({ request, link, params }) =>
  answerPreference(link, params.testId, await body(request, preferenceAnswerSchema)),
);
