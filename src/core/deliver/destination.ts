import { z } from 'zod';

/** Version of a destination's saved form. */
const DESTINATION_SCHEMA = 1;

const CONTAINERS = ['wav', 'flac'] as const;
const DEPTHS = [16, 24] as const;

/** What a file must be. Missing limits are not asked for. */
export const destinationSchema = z.strictObject({
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
});

export type Destination = z.infer<typeof destinationSchema>;

/** The destinations that a release can start with. */
export const STARTING_DESTINATIONS: readonly Destination[] = [
  {
    schema: 1,
    name: 'Streaming',
    source: 'Common practice, no published source',
    loudness: { targetLufs: -14, toleranceLu: 1 },
    maxTruePeakDbtp: -1,
    depth: 24,
    sampleRate: null,
    container: 'flac',
  },
  {
    schema: 1,
    name: 'Broadcast',
    source: 'EBU R 128',
    loudness: { targetLufs: -23, toleranceLu: 0.5 },
    maxTruePeakDbtp: -1,
    depth: 24,
    sampleRate: 48000,
    container: 'wav',
  },
  {
    schema: 1,
    name: 'Disc',
    source: 'IEC 60908; the true-peak limit is common practice, no published source',
    loudness: null,
    maxTruePeakDbtp: -0.3,
    depth: 16,
    sampleRate: 44100,
    container: 'wav',
  },
];
