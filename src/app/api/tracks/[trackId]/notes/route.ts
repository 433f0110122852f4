import { newNoteSchema } from '@/contracts/note';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { addNote } from '@/server/notes/notes';

/** Writes a note on the programme. */
export const POST = route(async ({ db, request, account, params }) =>
  Response.json(await addNote(db, account.id, params.trackId, await body(request, newNoteSchema)), { status: 201 }),
);
