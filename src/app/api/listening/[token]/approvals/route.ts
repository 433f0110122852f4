import { approveSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { approve } from '@/server/listening/approvals';
import { listeningRoute } from '@/server/listening/listening-route';

export const PUT = listeningRoute(async ({ db, request, link }) =>
  approve(db, link, await body(request, approveSchema)),
);
