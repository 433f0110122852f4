import { dropDestination, renewDestination } from '@/server/destinations/destinations';
import { route } from '@/server/http/route';

/** Gives a destination of a release the values that the shelf has now. */
export const PUT = route(({ db, account, params }) =>
  renewDestination(db, account.id, params.releaseId, params.destinationId),
);

export const DELETE = route(({ db, account, params }) =>
  dropDestination(db, account.id, params.releaseId, params.destinationId),
);
