import { copyTrack } from '@/server/tracks/tracks';
import { route } from '@/server/http/route';

export const POST = route(async ({ db, account, params }) =>
  Response.json(await copyTrack(db, account.id, params.trackId), { status: 201 }),
);
