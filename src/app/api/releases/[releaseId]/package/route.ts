import { releasePackage } from '@/server/deliveries/package';
import { route } from '@/server/http/route';

/** The finished files of a release with their receipts, as one zip. */
export const GET = route(({ request, account, params }) => releasePackage(request, account.id, params.releaseId), {
  seconds: null,
});
