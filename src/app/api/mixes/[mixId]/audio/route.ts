import { workingFile } from '@/server/mixes/mixes';
import { fileResponse } from '@/server/http/file-response';
import { route } from '@/server/http/route';
import { audioStore } from '@/server/store/audio-store';

export const GET = route(async ({ request, account, params }) => {
  const { hash, format } = await workingFile(account.id, params.mixId);
  const store = audioStore();
  return fileResponse(request, {
    file: await store.locate(hash),
    size: await store.size(hash),
    type: `audio/${format}`,
    hash,
  });
});
