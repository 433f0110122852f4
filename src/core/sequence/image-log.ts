import { z } from 'zod';
import { receiptSchema } from '../deliver/receipt';
import { figureSchema } from '../measure/intake-report';

/** What was measured of one track in a finished image, from its own mark to the next one's. */
const imageTrackSchema = z.object({
  title: z.string(),
  artist: z.string(),
  isrc: z.string(),
  /** Disc frames at which the pause before it and the track itself are marked; null without a pause. */
  index0: z.number().nullable(),
  index1: z.number(),
  /** Disc frames until the pause before the next track, or the next track, or the end. */
  discFrames: z.number(),
  integratedLufs: figureSchema,
  truePeakDbtp: figureSchema,
  samplePeakDbfs: figureSchema,
  /** Of its samples as they stand in the image, as little-endian PCM; hexadecimal digits. */
  sha256: z.string(),
  /** What it was made from. */
  mix: z.string(),
  version: z.string(),
});
export type ImageTrack = z.infer<typeof imageTrackSchema>;

/** The proof that comes with an image: a receipt of the file as a whole, and each track in it. */
export const imageReceiptSchema = z.object({
  receipt: receiptSchema,
  /** EAN of 13 digits; empty for none. */
  ean: z.string(),
  artist: z.string(),
  title: z.string(),
  tracks: z.array(imageTrackSchema).max(99),
});
export type ImageReceipt = z.infer<typeof imageReceiptSchema>;
