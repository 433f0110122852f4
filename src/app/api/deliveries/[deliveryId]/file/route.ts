import { mimeTypeOf, ownDelivery } from '@/server/deliveries/deliveries';
import { fileResponse } from '@/server/http/file-response';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';
import { audioStore } from '@/server/store/audio-store';

export const GET = route(async ({ db, request, account, params }) => {
  const { fileHash, fileName, destination } = await ownDelivery(db, account.id, params.deliveryId);
  if (!fileHash) throw new Problem(409, 'This delivery has no file: it is not finished, or it failed.');
  const store = audioStore(db);
  return fileResponse(request, {
    file: await store.locate(fileHash),
    size: await store.size(fileHash),
    type: mimeTypeOf(destination),
    hash: fileHash,
    downloadAs: fileName,
  });
});
