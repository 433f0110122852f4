import { copyRelease } from '@/server/releases/releases';
import { route } from '@/server/http/route';

export const POST = route(async ({ account, params }) =>
  Response.json(await copyRelease(account.id, params.releaseId), { status: 201 }),
);
