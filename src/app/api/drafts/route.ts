import { changeDraftHabitsSchema, newTakenDraftSchema } from '@/contracts/draft';
import { forgetDrafts, habits, rememberDraft, setLeaning } from '@/server/drafts/habits';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** What the account did to its first drafts. */
export const GET = route(({ account }) => habits(account.id));

export const POST = route(async ({ request, account }) =>
  rememberDraft(account.id, await body(request, newTakenDraftSchema)),
);

export const PUT = route(async ({ request, account }) =>
  setLeaning(account.id, (await body(request, changeDraftHabitsSchema)).leans),
);

export const DELETE = route(({ account }) => forgetDrafts(account.id));
