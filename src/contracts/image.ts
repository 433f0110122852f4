import { z } from 'zod';
import { imageReceiptSchema } from '../core/sequence/image-log';

/** Formats that an image can have. */
export const IMAGE_FORMATS = ['WAV', 'FLAC'] as const;

export const newImageSchema = z.strictObject({
  destinationId: z.uuid('Say for which destination.'),
  format: z.enum(IMAGE_FORMATS).default('WAV'),
});
export type NewImage = z.infer<typeof newImageSchema>;

export const imageSummarySchema = z.object({
  id: z.string(),
  status: z.enum(['waiting', 'rendering', 'finished', 'failed']),
  progress: z.number(),
  problem: z.string().nullable(),
  heldBecause: z.string().nullable(),
  fileName: z.string(),
  receipt: imageReceiptSchema.nullable(),
  createdAt: z.string(),
});
export type ImageSummary = z.infer<typeof imageSummarySchema>;

export const imageListSchema = z.array(imageSummarySchema);
export const createdImageSchema = z.object({ id: z.string() });
