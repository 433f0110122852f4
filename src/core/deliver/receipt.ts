import { z } from 'zod';
import { laneSchema } from '../lane/schema';
import { figureSchema, figurePairSchema } from '../measure/intake-report';
import { destinationSchema } from './destination';
import { DITHERS } from './dither';
import { encodeSchema } from './encode';
import { verdictSchema } from './verdict';

/** Version of a receipt's saved form. */
const RECEIPT_SCHEMA = 2;

/** Points that a loudness curve has at most. */
export const CURVE_POINTS = 600;

const currentSchema = z.object({
  schema: z.literal(RECEIPT_SCHEMA),
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
  /** Short-term loudness over the file in LUFS, evenly spaced; null where nothing is heard. */
  curve: z.object({ everySeconds: z.number(), shortTermLufs: z.array(figureSchema).max(CURVE_POINTS) }),
  /** What encodes of the file measure. */
  encodes: z.array(
    encodeSchema.extend({
      integratedLufs: figureSchema,
      samplePeakDbfs: figurePairSchema,
      truePeakDbtp: figurePairSchema,
      overs: z.number(),
    }),
  ),
  verdict: verdictSchema,
  destination: destinationSchema,
  mix: z.object({
    ...{ fileName: z.string(), sha256: z.string(), bitsUsed: z.number().nullable() },
    /** Hz; null in receipts that did not say so yet. */
    sampleRate: z.number().nullable().default(null),
  }),
  /** SHA-256 of the impulse responses that the lane names, by name. */
  impulses: z.record(z.string(), z.string()),
  version: z.string(),
  lane: laneSchema,
  levelDb: z.number(),
  /** dB by which the last limiter is driven more for this destination; the lane has it. */
  driveDb: z.number().default(0),
  /** What the file says about itself. */
  tags: z.record(z.string(), z.string()),
  /** SHA-256 of the cover picture in the file; null without one. */
  cover: z.object({ sha256: z.string(), type: z.string() }).nullable(),
  /** Largest reduction of the true-peak guard in dB. */
  guardDb: z.number(),
  dither: z.enum(DITHERS),
  clippedSamples: z.number(),
  /** Who answers for it. */
  by: z.object({ studio: z.string(), engineer: z.string() }),
  /** What made it and when. `form` is that of the files: the same order gives the same bytes in the same form. */
  made: z.object({ core: z.string(), ffmpeg: z.string(), at: z.string().nullable(), form: z.number() }),
  /** Ed25519 (RFC 8032) over everything else, by the key of the installation; both in base64. Null: not signed. */
  signature: z.object({ publicKey: z.string(), value: z.string() }).nullable().default(null),
});

/** Form of the files that are made now. */
export const FILE_FORM = 5;

/** The first form named nobody, had no tags at first, and knew less of the file. */
function migrated(saved: unknown): unknown {
  if (typeof saved !== 'object' || saved === null || !('schema' in saved) || saved.schema !== 1) return saved;
  const earlier = saved as Record<string, unknown> & { mix?: object; made?: object };
  return {
    ...{ tags: {}, by: { studio: '', engineer: '' } },
    ...earlier,
    ...{
      schema: RECEIPT_SCHEMA,
      curve: { everySeconds: 0, shortTermLufs: [] },
      encodes: [],
      impulses: {},
      cover: null,
    },
    mix: { bitsUsed: null, ...earlier.mix },
    made: { at: null, form: 1, ...earlier.made },
  };
}

/** The proof that comes with a finished file: every figure was measured on the file on disk. */
export const receiptSchema = z.preprocess(migrated, currentSchema);
export type Receipt = z.infer<typeof currentSchema>;
