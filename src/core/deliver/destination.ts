import { z } from 'zod';
import { DITHERS } from './dither';

/** Version of a destination's saved form. */
const DESTINATION_SCHEMA = 2;

const CONTAINERS = ['wav', 'flac'] as const;
const DEPTHS = [16, 24] as const;

const currentSchema = z.strictObject({
  schema: z.literal(DESTINATION_SCHEMA).default(DESTINATION_SCHEMA),
  name: z.string().trim().min(1, 'Give the destination a name.').max(80),
  /** Where the figures come from. */
  source: z.string().max(200),
  /** Integrated loudness in LUFS, with its tolerance in LU. */
  loudness: z
    .strictObject({ targetLufs: z.number().min(-40).max(-5), toleranceLu: z.number().min(0).max(5) })
    .nullable(),
  maxTruePeakDbtp: z.number().min(-12).max(0),
  depth: z.literal(DEPTHS),
  /** Hz; null keeps the mix's own rate. */
  sampleRate: z.number().int().min(44100).max(192000).nullable(),
  container: z.enum(CONTAINERS),
  /** What is added before the word length is reduced. */
  dither: z.enum(DITHERS),
  /** Writes zeros where the master is silent. */
  digitalSilence: z.boolean(),
});

/** The first form had TPDF always. */
function migrated(saved: unknown): unknown {
  if (typeof saved !== 'object' || saved === null || !('schema' in saved) || saved.schema !== 1) return saved;
  return { ...saved, schema: DESTINATION_SCHEMA, dither: 'TPDF', digitalSilence: false };
}

/** What a file must be. Missing limits are not asked for. Older forms are brought up to date. */
export const destinationSchema = z.preprocess(migrated, currentSchema);

export type Destination = z.infer<typeof destinationSchema>;

const TPDF = { dither: 'TPDF', digitalSilence: false } as const;

/** The destinations that a release can start with. */
export const STARTING_DESTINATIONS: readonly Destination[] = [
  {
    schema: DESTINATION_SCHEMA,
    name: 'Streaming',
    source: 'Common practice, no published source',
    loudness: { targetLufs: -14, toleranceLu: 1 },
    maxTruePeakDbtp: -1,
    depth: 24,
    sampleRate: null,
    container: 'flac',
    ...TPDF,
  },
  {
    schema: DESTINATION_SCHEMA,
    name: 'Broadcast',
    source: 'EBU R 128',
    loudness: { targetLufs: -23, toleranceLu: 0.5 },
    maxTruePeakDbtp: -1,
    depth: 24,
    sampleRate: 48000,
    container: 'wav',
    ...TPDF,
  },
  {
    schema: DESTINATION_SCHEMA,
    name: 'Disc',
    source: 'IEC 60908; the true-peak limit is common practice, no published source',
    loudness: null,
    maxTruePeakDbtp: -0.3,
    depth: 16,
    sampleRate: 44100,
    container: 'wav',
    ...TPDF,
  },
];
