import { bytesOf } from '@/server/http/body';
import { route } from '@/server/http/route';
import { keepMeasurement, keptMeasurement, MOST_BYTES } from '@/server/measurements/measurements';

export const GET = route(async ({ account, params }) => {
  const kept = await keptMeasurement(account.id, params.versionId);
  if (!kept) return;
  return new Response(Uint8Array.from(kept), { headers: { 'Content-Type': 'application/octet-stream' } });
});

export const PUT = route(async ({ request, account, params }) =>
  keepMeasurement(account.id, params.versionId, await bytesOf(request, MOST_BYTES)),
);
