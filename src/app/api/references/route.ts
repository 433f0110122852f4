import { listReferences, receiveReference } from '@/server/references/references';
import { route } from '@/server/http/route';
import { withSentFile } from '@/server/uploads';

/** The references on the account's shelf. */
export const GET = route(({ account }) => listReferences(account.id));

/** Takes a whole upload, or the body of the request, as a reference. */
export const POST = route(
  async ({ request, account }) =>
    Response.json(await withSentFile(account.id, request, (sent) => receiveReference(account.id, sent)), {
      status: 201,
    }),
  { seconds: null },
);
