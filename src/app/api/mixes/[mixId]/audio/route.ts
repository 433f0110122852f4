import { workingFile } from '@/server/mixes/mixes';
import { fileResponse } from '@/server/http/file-response';
import { floatAudio, rateOf } from '@/server/http/float-audio';
import { route } from '@/server/http/route';
import { audioStore } from '@/server/store/audio-store';

/** The working file; decoded at another rate where the query asks for one. */
export const GET = route(
  async ({ db, request, account, params }) => {
    const { hash, format, frames, sampleRate } = await workingFile(db, account.id, params.mixId);
    if (new URL(request.url).searchParams.has('rate'))
      return floatAudio(db, request, account.id, { hash, frames, sampleRate }, rateOf(request));
    const store = audioStore(db);
    return fileResponse(request, {
      file: await store.locate(hash),
      size: await store.size(hash),
      type: `audio/${format}`,
      hash,
    });
  },
  { seconds: null },
);
