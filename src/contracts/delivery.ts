import { z } from 'zod';
import type { Destination } from '../core/deliver/destination';
import type { Receipt } from '../core/deliver/receipt';

export const newDeliverySchema = z.strictObject({
  destinationId: z.uuid(),
  versionId: z.uuid(),
  /** Change of level after the lane, in dB. */
  levelDb: z
    .number()
    .min(-40, 'The level can be lowered by at most 40 dB.')
    .max(20, 'The level can be raised by at most 20 dB.')
    .default(0),
});

export type NewDelivery = z.infer<typeof newDeliverySchema>;

export type DeliveryStatus = 'waiting' | 'rendering' | 'finished' | 'failed' | 'cancelled';

export interface DeliverySummary {
  id: string;
  trackId: string;
  trackTitle: string;
  status: DeliveryStatus;
  progress: number;
  problem: string | null;
  /** Why it waits although its turn has come, as a sentence; null when nothing holds it up. */
  heldBecause: string | null;
  destination: Destination;
  levelDb: number;
  fileName: string;
  receipt: Receipt | null;
  createdAt: string;
  finishedAt: string | null;
}
