import { z } from 'zod';

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

/** The same with the version and the destination that it is for. */
export const placedAdjustmentSchema = adjustmentSchema.extend({ versionId: z.string(), destinationId: z.string() });
export type PlacedAdjustment = z.infer<typeof placedAdjustmentSchema>;

/** What of a version differs for a destination: nothing where nothing is kept. */
export function adjustmentAmong(
  adjustments: readonly PlacedAdjustment[],
  versionId: string,
  destinationId: string,
): Adjustment {
  return (
    adjustments.find((each) => each.versionId === versionId && each.destinationId === destinationId) ?? {
      levelDb: 0,
      driveDb: 0,
    }
  );
}
