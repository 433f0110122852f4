import { z } from 'zod';
import type { Destination } from '../core/deliver/destination';
import { atLevel, type Facts } from '../core/deliver/facts';
import { judge, type Verdict } from '../core/deliver/verdict';

/** Change of level after the lane, in dB. */
export const levelDbSchema = z
  .number()
  .min(-40, 'The level can be lowered by at most 40 dB.')
  .max(20, 'The level can be raised by at most 20 dB.');

/** Change of the last limiter's input gain, in dB. */
export const driveDbSchema = z
  .number()
  .min(-12, 'The drive can be lowered by at most 12 dB.')
  .max(12, 'The drive can be raised by at most 12 dB.');

/** What of a version differs for one destination. */
export const adjustmentSchema = z.strictObject({ levelDb: levelDbSchema, driveDb: driveDbSchema });
export type Adjustment = z.infer<typeof adjustmentSchema>;

/** The same with the version and the destination that it is for, and the step of that version at which it was set. */
export const placedAdjustmentSchema = adjustmentSchema.extend({
  ...{ versionId: z.string(), destinationId: z.string() },
  /** Null where that was not kept. */
  step: z.number().nullable(),
});
export type PlacedAdjustment = z.infer<typeof placedAdjustmentSchema>;

/** What of a version differs for a destination: nothing where nothing is kept. */
export function adjustmentAmong(
  adjustments: readonly PlacedAdjustment[],
  versionId: string,
  destinationId: string,
): KeptAdjustment {
  return (
    adjustments.find((each) => each.versionId === versionId && each.destinationId === destinationId) ?? {
      ...{ levelDb: 0, driveDb: 0, step: null },
    }
  );
}

export type KeptAdjustment = Pick<PlacedAdjustment, 'levelDb' | 'driveDb' | 'step'>;

/** Whether something differs for a destination that was set for another lane: for another step than the one a version is at. */
export function isOutdated({ levelDb, driveDb, step }: KeptAdjustment, current: number): boolean {
  return (levelDb !== 0 || driveDb !== 0) && step !== null && step !== current;
}

/** What a destination says of a master at the level that it is given there, with that level. */
export interface AdjustedVerdict {
  verdict: Verdict;
  levelDb: number;
  /** The level was set for another lane. */
  outdated: boolean;
}

/** Holds a master, as its version is at a step, against a destination with what differs for that. */
export function adjustedVerdict(
  destination: Destination,
  facts: Facts,
  adjustment: KeptAdjustment,
  step: number,
): AdjustedVerdict {
  const { levelDb } = adjustment;
  return { verdict: judge(destination, atLevel(facts, levelDb)), levelDb, outdated: isOutdated(adjustment, step) };
}
