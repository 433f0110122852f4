import { fileResponse } from '@/server/http/file-response';
import { route } from '@/server/http/route';
import { finishedImage, imageType } from '@/server/images/images';
import { audioStore } from '@/server/store/audio-store';

export const GET = route(async ({ db, request, account, params }) => {
  const { hash, fileName } = await finishedImage(db, account.id, params.imageId);
  const store = audioStore(db);
  return fileResponse(request, {
    ...{ file: await store.locate(hash), size: await store.size(hash), hash },
    ...{ type: imageType(fileName), downloadAs: fileName },
  });
});
