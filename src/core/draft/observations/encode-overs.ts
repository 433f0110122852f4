import { withLimiter } from '../../deliver/driven';
import { truePeakExcessDb } from '../../deliver/true-peak-limit';
import { figure } from '../../measure/figure';
import type { Rule } from './observation';

/** Encodes of the whole master whose true peak is over what their check allowed. */
export const encodeOvers: Rule = ({ lane, encodes }) =>
  encodes.flatMap(({ name, truePeakDbtp, limitDbtp, seconds, clearing }) => {
    if (truePeakExcessDb(truePeakDbtp, limitDbtp) === 0) return [];
    const known = clearing && lane.stages.some(({ id }) => id === clearing.stage);
    return [
      {
        kind: 'encode',
        stages: known ? [clearing.stage] : [],
        sentence: `As ${name} the master peaks at ${figure(truePeakDbtp)} dBTP, over its limit of ${figure(limitDbtp)} dBTP.`,
        seconds,
        remedy: known
          ? {
              label: `Ceiling ${figure(clearing.ceilingDbtp)} dBTP`,
              apply: (current) => withLimiter(current, clearing.stage, { ceilingDbtp: clearing.ceilingDbtp }),
            }
          : null,
      },
    ];
  });
