import { changeNoteSchema } from '@/contracts/note';
import { body } from '@/server/http/body';
import { route } from '@/server/http/route';
import { changeNote, removeNote } from '@/server/notes/notes';

/** Changes a note. */
export const PATCH = route(async ({ db, request, account, params }) =>
  changeNote(db, account.id, params.noteId, await body(request, changeNoteSchema)),
);

export const DELETE = route(({ db, account, params }) => removeNote(db, account.id, params.noteId));
