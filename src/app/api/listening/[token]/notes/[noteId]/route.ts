import { removeListenerNote } from '@/server/listening/listener-notes';
import { listeningRoute } from '@/server/listening/listening-route';

export const DELETE = listeningRoute(({ db, link, params }) => removeListenerNote(db, link, params.noteId));
