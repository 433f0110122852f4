import { listRemoved } from '@/server/removed/removed';
import { route } from '@/server/http/route';

export const GET = route(({ db, account }) => listRemoved(db, account.id));
