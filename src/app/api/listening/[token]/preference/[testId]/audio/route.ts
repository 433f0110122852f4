import { listeningRoute } from '@/server/listening/listening-route';
import { streamLetter } from '@/server/listening/stream-file';

export const GET = listeningRoute(({ db, request, link, params }) => {
  const asked = new URL(request.url).searchParams;
  const wanted = { trial: asked.get('trial'), letter: asked.get('letter'), codec: asked.get('codec') };
  return streamLetter(db, link, params.testId, wanted);
});
