import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import { receiveMix } from '@/server/bench/mixes';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';

/** Takes the body of the request as a file; its name stands in the query. */
export const POST = route(async ({ request, account, params }) => {
  const name = new URL(request.url).searchParams.get('name')?.trim().slice(0, 255);
  if (!name) throw new Problem(400, 'The upload does not say what the file is called.');
  if (!request.body) throw new Problem(422, `${name} is empty. Export the mix again and put it in once more.`);
  const announced = request.headers.get('content-length');
  const source = Readable.fromWeb(request.body as ReadableStream);
  return Response.json(
    await receiveMix(account.id, params.releaseId, name, source, announced === null ? null : Number(announced)),
    { status: 201 },
  );
});
