import { fileResponse } from '@/server/http/file-response';
import { listeningRoute } from '@/server/listening/listening-route';
import { mixForHandles } from '@/server/proposals/handles-page';
import { audioStore } from '@/server/store/audio-store';

export const GET = listeningRoute(async ({ db, request, link, params }) => {
  const { hash, format } = await mixForHandles(db, link, params.trackId);
  const store = audioStore(db);
  const file = { file: await store.locate(hash), size: await store.size(hash), hash };
  // What a link led to is gone with the link.
  return fileResponse(request, { ...file, type: `audio/${format}`, kept: false });
});
