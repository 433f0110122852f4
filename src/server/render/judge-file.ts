import type { FileFacts, MixFacts } from '../../core/deliver/facts';
import type { Receipt } from '../../core/deliver/receipt';
import { judge, type Verdict } from '../../core/deliver/verdict';
import type { CuttingReading } from '../../core/measure/cutting';
import { louder } from '../../core/measure/intake-report';

/** What a verdict over a finished file rests on: all of it measured on the file but the mix and the tags. */
export interface FileGrounds extends Pick<Receipt, 'measured' | 'encodes' | 'tags'> {
  durationSeconds: number;
  headSeconds: number;
  tailSeconds: number;
  facts: FileFacts;
  mix: MixFacts;
  cutting?: CuttingReading;
}

/** Holds a finished file against its destination. */
export function judgeFile(
  destination: Receipt['destination'],
  { measured, encodes, facts, ...grounds }: FileGrounds,
): Verdict {
  return judge(destination, {
    ...grounds,
    integratedLufs: measured.integratedLufs ?? -Infinity,
    truePeakDbtp: louder(measured.truePeakDbtp) ?? -Infinity,
    maxMomentaryLufs: measured.maxMomentaryLufs ?? -Infinity,
    maxShortTermLufs: measured.maxShortTermLufs ?? -Infinity,
    rangeLu: measured.rangeLu,
    file: facts,
    encodes: encodes.map(({ codec, kbps, truePeakDbtp }) => ({
      ...{ codec, kbps, truePeakDbtp: louder(truePeakDbtp) ?? -Infinity },
    })),
  });
}
