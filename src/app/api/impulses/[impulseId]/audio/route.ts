import { z } from 'zod';
import { impulseSamples } from '@/server/impulses/impulses';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';

const rateSchema = z.coerce.number().int().min(8000).max(384000);

/** Interleaved stereo float samples at the rate that the query asks for. */
export const GET = route(async ({ request, account, params }) => {
  const rate = rateSchema.safeParse(new URL(request.url).searchParams.get('rate'));
  if (!rate.success) throw new Problem(422, 'Give the sample rate as a whole number of Hz from 8000 to 384000.');
  const samples = await impulseSamples(account.id, params.impulseId, rate.data);
  return new Response(new Uint8Array(samples.buffer as ArrayBuffer), {
    headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=3600' },
  });
});
