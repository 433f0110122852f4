import { database } from '@/server/database/connection';
import { health } from '@/server/health';

export const dynamic = 'force-dynamic';

/** Open to anyone: it tells nothing but whether the parts answer. */
export async function GET(): Promise<Response> {
  const parts = await health(database());
  const status = Object.values(parts).every(Boolean) ? 200 : 503;
  return Response.json(parts, { status, headers: { 'Cache-Control': 'no-store' } });
}
