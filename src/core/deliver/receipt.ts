import { z } from 'zod';
import { laneSchema } from '../lane/schema';
import { figureSchema, figurePairSchema } from '../measure/intake-report';
import { destinationSchema } from './destination';
import { DITHERS } from './dither';
import { verdictSchema } from './verdict';

/** The proof that comes with a finished file: every figure was measured on the file on disk. */
export const receiptSchema = z.object({
  schema: z.literal(1),
  file: z.object({
    name: z.string(),
    bytes: z.number(),
    sha256: z.string(),
    container: z.string(),
    sampleRate: z.number(),
    bits: z.number(),
    frames: z.number(),
    durationSeconds: z.number(),
  }),
  measured: z.object({
    integratedLufs: figureSchema,
    maxMomentaryLufs: figureSchema,
    maxShortTermLufs: figureSchema,
    rangeLu: z.number(),
    plrLu: figureSchema,
    samplePeakDbfs: figurePairSchema,
    truePeakDbtp: figurePairSchema,
  }),
  verdict: verdictSchema,
  destination: destinationSchema,
  mix: z.object({ fileName: z.string(), sha256: z.string() }),
  version: z.string(),
  lane: laneSchema,
  levelDb: z.number(),
  /** What the file says about itself; receipts of older deliveries don't tell. */
  tags: z.record(z.string(), z.string()).default({}),
  /** Largest reduction of the true-peak guard in dB. */
  guardDb: z.number(),
  dither: z.enum(DITHERS),
  clippedSamples: z.number(),
  /** Who answers for it; receipts of older deliveries name nobody. */
  by: z.object({ studio: z.string(), engineer: z.string() }).default({ studio: '', engineer: '' }),
  made: z.object({ core: z.string(), ffmpeg: z.string() }),
});
export type Receipt = z.infer<typeof receiptSchema>;
