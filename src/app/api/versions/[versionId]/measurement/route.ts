import { bytesOf } from '@/server/http/body';
import { route } from '@/server/http/route';
import { keepMeasurement, keptMeasurement, MOST_BYTES } from '@/server/measurements/measurements';

export const GET = route(async ({ db, account, params }) => {
  const kept = await keptMeasurement(db, account.id, params.versionId);
  if (!kept) return;
  return new Response(Uint8Array.from(kept), { headers: { 'Content-Type': 'application/octet-stream' } });
});

export const PUT = route(async ({ db, request, account, params }) =>
  keepMeasurement(db, account.id, params.versionId, await bytesOf(request, MOST_BYTES)),
);
