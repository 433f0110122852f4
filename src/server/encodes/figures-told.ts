import type { ProgrammeFiguresTold } from '../../contracts/encode-check';
import { figureOrNull } from '../../core/measure/intake-report';
import type { ProgrammeFigures } from '../../core/measure/programme-meter';

/** Figures of a programme as they are sent: null for what is −∞. */
export function figuresTold({
  integratedLufs,
  samplePeaksDbfs,
  truePeaksDbtp,
  overs,
  overSeconds,
}: ProgrammeFigures): ProgrammeFiguresTold {
  const pair = ([left, right]: readonly [number, number]) =>
    [figureOrNull(left), figureOrNull(right)] as [number | null, number | null];
  return {
    integratedLufs: figureOrNull(integratedLufs),
    samplePeaksDbfs: pair(samplePeaksDbfs),
    truePeaksDbtp: pair(truePeaksDbtp),
    ...{ overs, overSeconds },
  };
}
