import { rateOf } from '@/server/http/float-audio';
import { listeningRoute } from '@/server/listening/listening-route';
import { impulseForHandles } from '@/server/proposals/handles-page';

/** Interleaved stereo float samples at the rate that the query asks for. */
export const GET = listeningRoute(async ({ db, request, link, params }) => {
  const samples = await impulseForHandles(db, link, params.trackId, params.impulseId, rateOf(request));
  return new Response(new Uint8Array(samples.buffer as ArrayBuffer), {
    headers: { 'Content-Type': 'application/octet-stream' },
  });
});
