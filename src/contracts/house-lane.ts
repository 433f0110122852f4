import { z } from 'zod';
import { houseLaneSchema } from '../core/house/house-lane';

/** A house lane that an account keeps. */
export const keptHouseLaneSchema = z.object({ id: z.string(), houseLane: houseLaneSchema });
export type KeptHouseLane = z.infer<typeof keptHouseLaneSchema>;
export const keptHouseLanesSchema = z.array(keptHouseLaneSchema);

/** A house lane that is to be kept. */
export const putHouseLaneSchema = houseLaneSchema;
