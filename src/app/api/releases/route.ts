import { z } from 'zod';
import { newReleaseSchema } from '@/contracts/release';
import { createRelease, listReleases } from '@/server/releases/releases';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';

const after = z.uuid().nullable();

/** A page of the account's releases: the newest, or those after the one that the query names; `archived` asks for those. */
export const GET = route(({ request, account }) => {
  const given = after.safeParse(new URL(request.url).searchParams.get('after'));
  if (!given.success) throw new Problem(422, 'This is not a page of the list. Start from the first one.');
  return listReleases(account.id, given.data, new URL(request.url).searchParams.has('archived'));
});

export const POST = route(async ({ request, account }) =>
  Response.json(await createRelease(account.id, await body(request, newReleaseSchema)), { status: 201 }),
);
