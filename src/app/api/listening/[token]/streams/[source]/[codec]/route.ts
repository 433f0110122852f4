import { listeningRoute } from '@/server/listening/listening-route';
import { streamFile } from '@/server/listening/stream-file';

export const GET = listeningRoute(({ request, link, params }) =>
  streamFile(request, link, params.source, params.codec),
);
