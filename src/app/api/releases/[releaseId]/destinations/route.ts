import { takeDestinationSchema } from '@/contracts/destination';
import { takeDestination } from '@/server/destinations/destinations';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';

/** Gives a release a destination of the shelf. */
export const POST = route(async ({ db, request, account, params }) => {
  const { shelfId } = await body(request, takeDestinationSchema);
  return Response.json(await takeDestination(db, account.id, params.releaseId, shelfId), { status: 201 });
});
