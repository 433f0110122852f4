import { copyTrack } from '@/server/tracks/tracks';
import { route } from '@/server/http/route';

export const POST = route(async ({ account, params }) =>
  Response.json(await copyTrack(account.id, params.trackId), { status: 201 }),
);
