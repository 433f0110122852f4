import { newImageSchema } from '@/contracts/image';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { listImages, startImage } from '@/server/images/images';

export const GET = route(({ db, account, params }) => listImages(db, account.id, params.releaseId));

export const POST = route(async ({ db, request, account, params }) => {
  const started = await startImage(db, account.id, params.releaseId, await body(request, newImageSchema));
  return Response.json(started, { status: 201 });
});
