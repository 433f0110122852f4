import { route } from '@/server/http/route';
import { jointAudio } from '@/server/releases/joints';

/** How a track follows the one before it, to listen to. */
export const GET = route(
  async ({ db, request, account, params }) => {
    const flac = await jointAudio(db, account.id, params.releaseId, params.trackId, request.signal);
    return new Response(Uint8Array.from(flac), {
      headers: { 'Content-Type': 'audio/flac', 'Cache-Control': 'private, no-store' },
    });
  },
  { seconds: 60 },
);
