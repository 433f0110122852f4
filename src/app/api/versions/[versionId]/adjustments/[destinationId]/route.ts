import { adjustmentSchema } from '@/contracts/adjustment';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { setAdjustment } from '@/server/versions/adjustments';

/** What of the version differs for the destination; zero for both takes it away. */
export const PUT = route(async ({ db, request, account, params }) => {
  await setAdjustment(db, account.id, params.versionId, params.destinationId, await body(request, adjustmentSchema));
});
