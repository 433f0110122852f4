import { fileResponse } from '@/server/http/file-response';
import { route } from '@/server/http/route';
import { sentFile } from '@/server/http/upload';
import { coverOf, receiveCover, removeCover } from '@/server/releases/cover';
import { audioStore } from '@/server/store/audio-store';

export const GET = route(async ({ request, account, params }) => {
  const { hash, type } = await coverOf(account.id, params.releaseId);
  const store = audioStore();
  return fileResponse(request, { file: await store.locate(hash), size: await store.size(hash), type, hash });
});

/** Takes the body of the request as the cover. */
export const PUT = route(({ request, account, params }) =>
  receiveCover(account.id, params.releaseId, sentFile(request)),
);

export const DELETE = route(({ account, params }) => removeCover(account.id, params.releaseId));
