import { blindSound, receiveSound } from '@/server/blind-tests/blind-tests';
import { route } from '@/server/http/route';

const number = (request: Request, name: string) => Number(new URL(request.url).searchParams.get(name) ?? NaN);

/** Takes the sound of a candidate: the body, of the candidate whose place the query names. */
export const PUT = route(
  async ({ db, request, account, params }) =>
    receiveSound(db, account.id, params.testId, number(request, 'position'), request),
  { seconds: 120 },
);

/** The sound of a letter in a trial; the query names both. */
export const GET = route(async ({ db, request, account, params }) => {
  const letter = new URL(request.url).searchParams.get('letter') ?? '';
  const samples = await blindSound(db, account.id, params.testId, number(request, 'trial'), letter);
  return new Response(new Uint8Array(samples.buffer as ArrayBuffer), {
    headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, no-store' },
  });
});
