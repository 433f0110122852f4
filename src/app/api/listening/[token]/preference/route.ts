import { startPreferenceSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { listeningRoute } from '@/server/listening/listening-route';
import { startPreference } from '@/server/listening/preference';

export const POST = listeningRoute(async ({ db, request, link }) =>
  startPreference(db, link, (await body(request, startPreferenceSchema)).author),
);
