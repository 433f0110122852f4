import { z } from 'zod';

const level = z.number().nullable();

/** What is measured of a reference; levels are null where there is silence. */
export const referenceReportSchema = z.object({
  frames: z.number(),
  /** Hz */
  sampleRate: z.number(),
  integratedLufs: level,
  truePeakDbtp: level,
  plrLu: level,
  rangeLu: z.number(),
  /** Its loudest passage, in frames. */
  loudest: z.object({ start: z.number(), end: z.number() }),
  /** By third-octaves, from the lowest up. */
  balance: z.array(z.object({ levelDbfs: level, sideDb: level, correlation: z.number() })).max(64),
});
export type ReferenceReport = z.infer<typeof referenceReportSchema>;

const REFERENCE_STATUSES = ['waiting', 'measuring', 'ready', 'refused'] as const;

/** A reference on an account's shelf. */
export const referenceSchema = z.object({
  id: z.string(),
  title: z.string(),
  fileName: z.string(),
  source: z.object({
    container: z.string(),
    codec: z.string(),
    sampleRate: z.number(),
    channels: z.number(),
    durationSeconds: z.number(),
  }),
  status: z.enum(REFERENCE_STATUSES),
  progress: z.number(),
  /** Why it can't be used, as a sentence. */
  refusal: z.string().nullable(),
  report: referenceReportSchema.nullable(),
  createdAt: z.string(),
});
export type Reference = z.infer<typeof referenceSchema>;

export const referenceListSchema = z.array(referenceSchema);

export const changeReferenceSchema = z.strictObject({
  title: z.string().trim().min(1, 'Give the reference a title.').max(120, 'The title can have up to 120 characters.'),
});
