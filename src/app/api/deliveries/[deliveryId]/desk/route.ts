import { handOver } from '@/server/deliveries/hand-over';
import { route } from '@/server/http/route';

/** Hands the finished file over to the receiving desk (simulated) and gives its answer. */
export const POST = route(({ db, account, params }) => handOver(db, account.id, params.deliveryId), { seconds: null });
