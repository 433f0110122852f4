import { z } from 'zod';
import { intakeReportSchema } from '../core/measure/intake-report';

export const newReleaseSchema = z.strictObject({
  title: z.string().trim().min(1, 'Give the release a title.').max(120, 'The title can have up to 120 characters.'),
  artist: z.string().trim().max(120, 'The artist can have up to 120 characters.').default(''),
});

export type NewRelease = z.infer<typeof newReleaseSchema>;

export const releaseSummarySchema = z.object({
  id: z.string(),
  title: z.string(),
  artist: z.string(),
  tracks: z.number(),
  deliveries: z.number(),
  createdAt: z.string(),
});
export type ReleaseSummary = z.infer<typeof releaseSummarySchema>;

/** Some of an account's releases, the newest first. */
export const releasePageSchema = z.object({
  releases: z.array(releaseSummarySchema),
  /** What to ask for to get those that follow; null at the end. */
  next: z.string().nullable(),
});
export type ReleasePage = z.infer<typeof releasePageSchema>;

export const createdReleaseSchema = z.object({ id: z.string() });

const MIX_STATUSES = ['waiting', 'analysing', 'ready', 'refused'] as const;
export type MixStatus = (typeof MIX_STATUSES)[number];

export const chosenMixSchema = z.strictObject({ mixId: z.uuid('Say which mix.') });

/** How a newer mix lines up with an older one. */
export const linedUpSchema = z.object({
  /** Number of the older mix. */
  toMix: z.number(),
  /**
   * `found`: aligned; `different`: too different to tell; `soundBefore`: it starts with sound that aligning would cut
   * off.
   */
  outcome: z.enum(['found', 'different', 'soundBefore']),
  /** Frames by which the newer file starts later; negative when earlier; 0 when they do not agree. */
  offsetFrames: z.number(),
  offsetMs: z.number(),
  agreement: z.number(),
});
export type LinedUp = z.infer<typeof linedUpSchema>;

export const mixSummarySchema = z.object({
  id: z.string(),
  number: z.number(),
  fileName: z.string(),
  status: z.enum(MIX_STATUSES),
  progress: z.number(),
  refusal: z.string().nullable(),
  /** Why it waits although its turn has come, as a sentence; null when nothing holds it up. */
  heldBecause: z.string().nullable(),
  source: z.object({
    container: z.string(),
    codec: z.string(),
    sampleRate: z.number(),
    bits: z.number(),
    float: z.boolean(),
    channels: z.number(),
  }),
  /** Of the mix in use, and of the one it is compared with. */
  report: intakeReportSchema.nullable(),
  /** Null for a first mix. */
  linedUp: linedUpSchema.nullable(),
});
export type MixSummary = z.infer<typeof mixSummarySchema>;

export const trackSummarySchema = z.object({
  id: z.string(),
  title: z.string(),
  position: z.number(),
  /** The mix in use: the chosen one, else the newest that is ready, else the newest. */
  mix: mixSummarySchema.nullable(),
  /** Mixes, the newest first: a few of them in the list of a release. */
  mixes: z.array(mixSummarySchema),
  deliveries: z.number(),
});
export type TrackSummary = z.infer<typeof trackSummarySchema>;

export const releaseDetailSchema = z.object({
  id: z.string(),
  title: z.string(),
  artist: z.string(),
  tracks: z.array(trackSummarySchema),
});
export type ReleaseDetail = z.infer<typeof releaseDetailSchema>;
