import { changeDraftHabitsSchema, newTakenDraftSchema } from '@/contracts/draft';
import { forgetDrafts, habits, rememberDraft, setLeaning } from '@/server/drafts/habits';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** What the account did to its first drafts. */
export const GET = route(({ db, account }) => habits(db, account.id));

export const POST = route(async ({ db, request, account }) =>
  rememberDraft(db, account.id, await body(request, newTakenDraftSchema)),
);

export const PUT = route(async ({ db, request, account }) =>
  setLeaning(db, account.id, (await body(request, changeDraftHabitsSchema)).leans),
);

export const DELETE = route(({ db, account }) => forgetDrafts(db, account.id));
