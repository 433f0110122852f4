import { traitsOf } from '../stages/registry';
import type { Lane, Stage } from './schema';

/**
 * A nonlinear stage without its distortion and at unity gain: what its crossovers, tone and oversampling filters do by
 * themselves. Null where that is latency alone, and for a linear stage. Some of its settings are outside what a lane may
 * hold.
 */
export function linearReference(stage: Stage, crossovers: Lane['crossovers']): Stage | null {
  const settings = traitsOf<Stage>(stage).nonlinear?.linearReference?.(stage.settings, crossovers);
  return settings ? ({ ...stage, settings } as Stage) : null;
}
