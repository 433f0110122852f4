import type { LinedUp } from '../../contracts/release';
import { figure } from '../kit/format';

/** How a mix lies beside the older one, in a sentence. */
export function linedUpWords({ toMix, outcome, offsetMs }: LinedUp): string {
  const late = `${figure(Math.abs(offsetMs))} ms ${offsetMs > 0 ? 'later' : 'earlier'} than mix ${toMix}`;
  switch (outcome) {
    case 'found':
      return offsetMs === 0
        ? `Lies exactly where mix ${toMix} lies.`
        : `The file begins ${late}; it was moved to lie under it, to the sample.`;
    case 'soundBefore':
      return `The file begins ${late}, with sound that moving it would cut off: it stays as it came.`;
    case 'different':
      return `It is too unlike mix ${toMix} to be lined up with it: it stays as it came.`;
  }
}
