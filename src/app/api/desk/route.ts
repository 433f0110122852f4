import { receiveAtDesk } from '@/server/deliveries/hand-over';
import { route } from '@/server/http/route';

/** The receiving desk’s own door (simulated): a file as the body, with its slip as JSON in the query. */
export const POST = route(({ db, request }) => receiveAtDesk(db, request), { seconds: null });
