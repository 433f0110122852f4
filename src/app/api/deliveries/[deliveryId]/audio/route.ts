import { ownDelivery } from '@/server/deliveries/deliveries';
import { floatAudio, rateOf } from '@/server/http/float-audio';
import { route } from '@/server/http/route';
import { Problem } from '@/server/problem';

/** The finished file decoded, at the rate that the query asks for. */
export const GET = route(
  async ({ request, account, params }) => {
    const { fileHash, receipt } = await ownDelivery(account.id, params.deliveryId);
    if (!fileHash || !receipt) throw new Problem(409, 'This delivery has no file: it is not finished, or it failed.');
    const { frames, sampleRate } = receipt.file;
    return floatAudio(request, { hash: fileHash, frames, sampleRate }, rateOf(request));
  },
  { seconds: null },
);
