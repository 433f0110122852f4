import type { LaneProcessor } from '../../core/lane/processor';
import { EMPTY_LANE, type Stage } from '../../core/lane/schema';
import { describe } from '../../core/stages/setting';
import { limiterSettings } from '../../core/stages/limiter/settings';
import { Problem } from '../problem';
import { written } from './raw';
import { excessDb, type Noted } from './tap';
import { throughStages } from './through-stages';

/** Each try lowers the guard's ceiling by what the last was over; two or three are enough for any signal known. */
const GUARD_TRIES = 8;

/**
 * Holds true peaks of a signal at a rate in Hz below a limit, in a file, until both meters agree that they are. Throws a
 * Problem (422) when they cannot be.
 */
export async function guarded(
  signal: () => AsyncIterable<Float64Array>,
  sampleRate: number,
  target: string,
  limitDbtp: number,
): Promise<{ noted: Noted; guardDb: number }> {
  let ceilingDbtp = limitDbtp;
  const { min } = describe(limiterSettings.shape.ceilingDbtp);
  for (let tries = 0; tries < GUARD_TRIES && ceilingDbtp >= min; tries++) {
    const guard: Stage = { id: 'guard', kind: 'limiter', on: true, settings: limiterSettings.parse({ ceilingDbtp }) };
    let guardDb = 0;
    const onBlock = (lane: LaneProcessor) => (guardDb = Math.max(guardDb, lane.takeGainReduction(0)));
    const held = throughStages(signal(), { ...EMPTY_LANE, stages: [guard] }, sampleRate, undefined, { onBlock });
    const noted = await written(held, target);
    const excess = excessDb(noted, limitDbtp);
    if (excess <= 0) return { noted, guardDb };
    ceilingDbtp -= excess;
  }
  throw new Problem(
    422,
    `The true peaks can’t be held at ${limitDbtp} dBTP after the sample-rate conversion. Lower the level or put a limiter at the end of the lane.`,
  );
}
