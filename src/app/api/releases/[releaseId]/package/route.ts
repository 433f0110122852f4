import { releasePackage } from '@/server/deliveries/package';
import { route } from '@/server/http/route';

/** The finished files of a release with their receipts, as one zip. */
export const GET = route(
  ({ db, request, account, params }) => releasePackage(db, request, account.id, params.releaseId),
  {
    seconds: null,
  },
);
