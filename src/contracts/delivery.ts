import { z } from 'zod';
import { destinationSchema } from '../core/deliver/destination';
import { DITHERS } from '../core/deliver/dither';
import { receiptSchema } from '../core/deliver/receipt';
import { standingSchema } from '../core/deliver/requirement';
import { answerSchema } from '../desk/slip';
import { driveDbSchema, levelDbSchema } from './adjustment';

export const newDeliverySchema = z.strictObject({
  destinationId: z.uuid(),
  versionId: z.uuid(),
  /** Change of level after the lane, in dB; left out, it is what the version has for the destination, like the drive. */
  levelDb: levelDbSchema.optional(),
  /** More or less input gain of the last limiter, in dB. */
  driveDb: driveDbSchema.optional(),
  /** Instead of the destination's own. */
  dither: z.enum(DITHERS).optional(),
  digitalSilence: z.boolean().optional(),
});

/** Deliveries of several tracks of a release, to one or more destinations each. */
export const newDeliveriesSchema = z.strictObject({
  deliveries: z
    .array(newDeliverySchema.extend({ trackId: z.uuid() }))
    .min(1, 'Choose what to deliver.')
    .max(500, 'At most 500 deliveries can be started at once.'),
});
export type NewDeliveries = z.infer<typeof newDeliveriesSchema>;

export type NewDelivery = z.infer<typeof newDeliverySchema>;

const DELIVERY_STATUSES = ['waiting', 'rendering', 'finished', 'failed', 'cancelled'] as const;
export type DeliveryStatus = (typeof DELIVERY_STATUSES)[number];

export const deliverySummarySchema = z.object({
  id: z.string(),
  trackId: z.string(),
  trackTitle: z.string(),
  releaseId: z.string(),
  releaseTitle: z.string(),
  status: z.enum(DELIVERY_STATUSES),
  progress: z.number(),
  problem: z.string().nullable(),
  /** Why it waits although its turn has come, as a sentence; null when nothing holds it up. */
  heldBecause: z.string().nullable(),
  destination: destinationSchema,
  levelDb: z.number(),
  driveDb: z.number(),
  fileName: z.string(),
  receipt: receiptSchema.nullable(),
  /** What the receiving desk said of it; null before it was asked. */
  deskAnswer: answerSchema.extend({ at: z.string() }).nullable(),
  createdAt: z.string(),
  finishedAt: z.string().nullable(),
});
export type DeliverySummary = z.infer<typeof deliverySummarySchema>;

/** The newest delivery of a track to a destination, in a list. */
export const latestDeliverySchema = z.object({
  id: z.string(),
  /** Name of the destination. */
  destination: z.string(),
  status: z.enum(DELIVERY_STATUSES),
  progress: z.number(),
  /** What its receipt says; null while there is none. */
  standing: standingSchema.nullable(),
  createdAt: z.string(),
});
export type LatestDelivery = z.infer<typeof latestDeliverySchema>;

export const startedDeliverySchema = z.object({ id: z.string() });
