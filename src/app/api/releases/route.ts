import { newReleaseSchema } from '@/exchange/release';
import { createRelease, listReleases } from '@/server/bench/releases';
import { body, route } from '@/server/http/route';

export const GET = route(({ account }) => listReleases(account.id));

export const POST = route(async ({ request, account }) =>
  Response.json(await createRelease(account.id, await body(request, newReleaseSchema)), { status: 201 }),
);
