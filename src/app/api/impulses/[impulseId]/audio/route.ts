import { rateOf } from '@/server/http/float-audio';
import { impulseSamples } from '@/server/impulses/impulses';
import { route } from '@/server/http/route';

/** Interleaved stereo float samples at the rate that the query asks for. */
export const GET = route(async ({ db, request, account, params }) => {
  const samples = await impulseSamples(db, account.id, params.impulseId, rateOf(request));
  return new Response(new Uint8Array(samples.buffer as ArrayBuffer), {
    headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=3600' },
  });
});
