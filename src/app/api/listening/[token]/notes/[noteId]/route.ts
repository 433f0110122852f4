import { removeListenerNote } from '@/server/listening/listener-notes';
import { listeningRoute } from '@/server/listening/listening-route';

export const DELETE = listeningRoute(({ link, params }) => removeListenerNote(link, params.noteId));
