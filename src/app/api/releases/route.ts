import { newReleaseSchema, releaseListSchema } from '@/contracts/release';
import { createRelease, listReleases } from '@/server/releases/releases';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';

/** A page of the account's releases, as the query asks for it. */
export const GET = route(({ db, request, account }) => {
  const asked = releaseListSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success) throw new Problem(422, asked.error.issues[0].message);
  return listReleases(db, account.id, asked.data);
});

export const POST = route(async ({ db, request, account }) =>
  Response.json(await createRelease(db, account.id, await body(request, newReleaseSchema)), { status: 201 }),
);
