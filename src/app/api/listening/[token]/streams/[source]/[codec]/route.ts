import { listeningRoute } from '@/server/listening/listening-route';
import { streamFile } from '@/server/listening/stream-file';

export const GET = listeningRoute(({ db, request, link, params }) =>
  streamFile(db, request, link, params.source, params.codec),
);
