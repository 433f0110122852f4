import type { LinedUp } from '../../contracts/release';
import { figure } from '../kit/format';

/** How a mix lies beside the older one, in a sentence. */
export function linedUpWords({ toMix, outcome, offsetMs }: LinedUp): string {
  const late = `${figure(Math.abs(offsetMs))} ms ${offsetMs > 0 ? 'later' : 'earlier'} than mix ${toMix}`;
  switch (outcome) {
    case 'found':
      return offsetMs === 0
        ? `Already aligned with mix ${toMix}.`
        : `The file starts ${late}; it was aligned to the sample.`;
    case 'soundBefore':
      return `The file starts ${late}, with sound that aligning would cut off: it was left as it is.`;
    case 'different':
      return `Too different from mix ${toMix} to align: it was left as it is.`;
  }
}
