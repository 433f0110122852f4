import { getConfig } from '@/server/config';
import { receiptKey } from '@/server/deliveries/signature';
import { publicRoute } from '@/server/http/route';

/** For anyone who holds a receipt against it: the public half of the key that receipts are signed with here. */
export const GET = publicRoute(() =>
  Promise.resolve({ algorithm: 'Ed25519', key: receiptKey(getConfig().dataFolder) }),
);
