import type { Destination } from './destination';
import { sameEncode, type Encode } from './encode';

/** By how much the true peak of an encode was above that of its master, in dB. */
export interface EncodeGrowth extends Encode {
  growthDb: number;
}

/**
 * What a master's true peak may be, in dBTP, so that the encodes which a destination asks for stay within their limits too, as
 * far as their growth is known.
 */
export function ceilingForEncodes(
  { truePeak, encodes }: Pick<Destination, 'truePeak' | 'encodes'>,
  known: readonly EncodeGrowth[],
): number {
  const ceilings = encodes.flatMap((encode) => {
    const growth = known.find((each) => sameEncode(each, encode));
    return growth ? [encode.maxDbtp - Math.max(0, growth.growthDb)] : [];
  });
  return Math.floor(100 * Math.min(truePeak.maxDbtp, ...ceilings) + 1e-6) / 100;
}
