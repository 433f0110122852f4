import { fileResponse } from '@/server/http/file-response';
import { route } from '@/server/http/route';
import { sentFile } from '@/server/http/upload';
import { coverOf, receiveCover, removeCover } from '@/server/releases/cover';
import { audioStore } from '@/server/store/audio-store';

export const GET = route(async ({ db, request, account, params }) => {
  const { hash, type } = await coverOf(db, account.id, params.releaseId);
  const store = audioStore(db);
  return fileResponse(request, { file: await store.locate(hash), size: await store.size(hash), type, hash });
});

/** Takes the body of the request as the cover. */
export const PUT = route(({ db, request, account, params }) =>
  receiveCover(db, account.id, params.releaseId, sentFile(request)),
);

export const DELETE = route(({ db, account, params }) => removeCover(db, account.id, params.releaseId));
