import { newListenerNoteSchema } from '@/contracts/listening';
import { body } from '@/server/http/body';
import { addListenerNote } from '@/server/listening/listener-notes';
import { listeningRoute } from '@/server/listening/listening-route';

export const POST = listeningRoute(async ({ db, request, link }) => {
  const added = await addListenerNote(db, link, await body(request, newListenerNoteSchema));
  return Response.json(added, { status: 201 });
});
