import { listReferences, receiveReference } from '@/server/references/references';
import { route } from '@/server/http/route';
import { withSentFile } from '@/server/uploads';

/** The references on the account's shelf. */
export const GET = route(({ db, account }) => listReferences(db, account.id));

/** Takes a whole upload, or the body of the request, as a reference. */
export const POST = route(
  async ({ db, request, account }) =>
    Response.json(await withSentFile(db, account.id, request, (sent) => receiveReference(db, account.id, sent)), {
      status: 201,
    }),
  { seconds: null },
);
