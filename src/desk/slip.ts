import { z } from 'zod';

/** What a file can be, as the desk names it. */
const CONTAINERS = ['wav', 'bwf', 'flac', 'aiff', 'alac', 'mp3', 'aac'] as const;

const limit = z.number().nullable();

/** The slip that comes with a file: what it is said to be, and what was agreed on for it. */
export const slipSchema = z.strictObject({
  name: z.string().refine((name) => Buffer.byteLength(name) <= 255, 'The name of a file has at most 255 bytes.'),
  sha256: z.string().regex(/^[0-9a-f]{64}$/, 'The checksum of a slip is 64 hexadecimal digits.'),
  container: z.enum(CONTAINERS),
  /** Hz; what is null was not agreed on. */
  sampleRate: limit,
  lowestSampleRate: limit,
  bits: z.literal([16, 20, 24]).nullable(),
  /** LUFS */
  loudness: z.strictObject({ lowest: limit, highest: limit }),
  highestMomentary: limit,
  highestShortTerm: limit,
  /** LU */
  widestRange: limit,
  /** dBTP */
  highestTruePeak: limit,
  /** Seconds */
  shortest: limit,
  longest: limit,
  longestSilence: z.strictObject({ head: limit, tail: limit }),
  /** Texts that the file must carry, by ffprobe’s names. */
  tags: z.partialRecord(z.enum(['title', 'artist', 'album', 'isrc']), z.string().max(500)),
});
export type Slip = z.infer<typeof slipSchema>;

const measured = z.number().nullable();

/** What the desk found out about a file, and why it does not take it; without a reason it is accepted. */
export const answerSchema = z.object({
  accepted: z.boolean(),
  reasons: z.array(z.string()),
  /** What ffmpeg’s meters read: LUFS, LU, dBTP and seconds; null where nothing was measured. */
  measured: z
    .object({
      ...{ loudness: measured, momentary: measured, shortTerm: measured, truePeak: measured },
      range: z.number(),
      silence: z.object({ head: z.number(), tail: z.number() }),
    })
    .nullable(),
});
export type Answer = z.infer<typeof answerSchema>;
