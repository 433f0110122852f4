import { endOtherSessions } from '@/server/accounts/session';
import { route } from '@/server/http/route';

/** Signs the account out everywhere else. */
export const DELETE = route(({ db, account }) => endOtherSessions(db, account.id));
