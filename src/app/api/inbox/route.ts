import { seenSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { inbox, markSeen } from '@/server/listening/inbox';

export const GET = route(({ db, account }) => inbox(db, account.id));

/** Marks answers as seen. */
export const POST = route(async ({ db, request, account }) =>
  markSeen(db, account.id, (await body(request, seenSchema)).until),
);
