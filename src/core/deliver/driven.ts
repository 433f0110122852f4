import type { Lane, Stage } from '../lane/schema';
import { limiterSettings } from '../stages/limiter/settings';
import { describe } from '../stages/setting';

type Limiter = Extract<Stage, { kind: 'limiter' }>;

/** The last limiter that is on; null without one. */
export function lastLimiter({ stages }: Lane): Limiter | null {
  return stages.findLast((stage): stage is Limiter => stage.kind === 'limiter' && stage.on) ?? null;
}

/** A lane with one setting of a limiter changed. */
export function withLimiter(lane: Lane, id: string, change: Partial<Limiter['settings']>): Lane {
  const stages = lane.stages.map((stage) =>
    stage.id === id && stage.kind === 'limiter' ? { ...stage, settings: { ...stage.settings, ...change } } : stage,
  );
  return { ...lane, stages };
}

/**
 * A lane whose last limiter is driven by so many dB more, or less; the lane itself for 0, null when it has no limiter or
 * the limiter's input gain does not reach that far.
 */
export function driven(lane: Lane, driveDb: number): Lane | null {
  if (driveDb === 0) return lane;
  const limiter = lastLimiter(lane);
  if (!limiter) return null;
  const { min, max } = describe(limiterSettings.shape.inputGainDb);
  const inputGainDb = Math.round((limiter.settings.inputGainDb + driveDb) * 100) / 100;
  return inputGainDb < min || inputGainDb > max ? null : withLimiter(lane, limiter.id, { inputGainDb });
}
