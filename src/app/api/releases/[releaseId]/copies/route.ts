import { copyRelease } from '@/server/releases/releases';
import { route } from '@/server/http/route';

export const POST = route(async ({ db, account, params }) =>
  Response.json(await copyRelease(db, account.id, params.releaseId), { status: 201 }),
);
