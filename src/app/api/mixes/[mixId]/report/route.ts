import { route } from '@/server/http/route';
import { intakeSheet } from '@/server/mixes/intake-sheet';

/** What intake found, as a sheet for the client in the form that is asked for. */
export const GET = route(({ db, request, account, params }) =>
  intakeSheet(db, account.id, params.mixId, new URL(request.url).searchParams.get('form') ?? 'txt'),
);
