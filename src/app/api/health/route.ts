import { health } from '@/server/health';

export const dynamic = 'force-dynamic';

/** Open to anyone: it tells nothing but whether the parts answer. */
export async function GET(): Promise<Response> {
  const parts = await health();
  return Response.json(parts, { status: Object.values(parts).every(Boolean) ? 200 : 503 });
}
