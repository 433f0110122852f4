import { z } from 'zod';
import { parseEan, parseIsrc } from '../core/deliver/identifiers';
import { placedAdjustmentSchema } from './adjustment';
import { latestDeliverySchema } from './delivery';
import { releaseDestinationSchema } from './destination';
import { intakeReportSchema } from '../core/measure/intake-report';
import { jointSchema } from '../core/sequence/joint';
import { edgesSchema } from '../core/sequence/edges';
import { checkedEncodeSchema } from './encode-check';
import { masterSummarySchema } from '../core/measure/master-summary';

/** Controls, line breaks, and what turns the direction of writing (Unicode UAX 9). */
export const NOT_IN_A_LINE = /[\p{Cc}\p{Zl}\p{Zp}\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]/u;

/** A text of one line that may be empty. */
const line = (what: string, most = 120) =>
  text(what, most).refine(
    (value) => !NOT_IN_A_LINE.test(value),
    `${what} has a line break or an invisible control. Type it again.`,
  );
const text = (what: string, most: number) => z.string().trim().max(most, `${what} can have up to ${most} characters.`);
const title = (what: string) => line('The title').min(1, `Give the ${what} a title.`);
const notes = text('The notes', 4000);
const copyright = line('The copyright line', 200);
/** An identifier that may be empty, in its stored form. */
const identifier = (parse: (text: string) => string | null, message: string) =>
  z
    .string()
    .max(40, message)
    .transform((text, context) => {
      if (text.trim() === '') return '';
      const stored = parse(text);
      if (stored === null) context.addIssue({ code: 'custom', message });
      return stored ?? z.NEVER;
    });

export const newReleaseSchema = z.strictObject({
  title: title('release'),
  artist: line('The artist').default(''),
});

/** What a release is called and carries: any part of it can be changed. */
export const releaseParticularsSchema = z.strictObject({
  title: title('release'),
  artist: line('The artist'),
  year: z.int('The year is a number, such as 2026.').min(1000).max(2999).nullable(),
  ean: identifier(parseEan, 'An EAN has 13 digits, the last of which checks the others. Check it against the source.'),
  copyright,
  notes,
});
export const changeReleaseSchema = releaseParticularsSchema.partial().extend({ archived: z.boolean().optional() });
export type ChangeRelease = z.infer<typeof changeReleaseSchema>;

/** What a track is called and carries: any part of it can be changed. An empty artist is that of the release. */
export const trackParticularsSchema = z.strictObject({
  title: title('track'),
  artist: line('The artist'),
  isrc: identifier(parseIsrc, 'An ISRC has 12 characters, such as AA-6Q7-20-00047. Check it against the source.'),
  composer: line('The composer', 200),
  copyright,
  notes,
});
export const changeTrackSchema = trackParticularsSchema.partial().extend({
  /** How it follows the track before it. */
  joint: jointSchema.optional(),
  /** The version that the release is put together from; null: the first one. */
  chosenVersionId: z.uuid().nullable().optional(),
});
export type ChangeTrack = z.infer<typeof changeTrackSchema>;

/** Trims of the chosen versions of a release, in dB, each at the step that a window knows. */
export const levelReleaseSchema = z.strictObject({
  trims: z
    .array(
      z.strictObject({
        ...{ versionId: z.uuid(), after: z.int().min(0) },
        trimDb: z.number().min(-24, 'A trim goes from −24 to 24 dB.').max(24, 'A trim goes from −24 to 24 dB.'),
      }),
    )
    .min(1, 'There is nothing to level.')
    .max(100),
});
export type LevelRelease = z.infer<typeof levelReleaseSchema>;
/** The steps that levelling made: what undoes it. */
export const levelledReleaseSchema = z.strictObject({
  steps: z
    .array(z.strictObject({ versionId: z.uuid(), step: z.int().min(0) }))
    .min(1)
    .max(100),
});
export type LevelledRelease = z.infer<typeof levelledReleaseSchema>;

/** Where a track is moved to. */
export const moveTrackSchema = z.strictObject({ releaseId: z.uuid('Say to which release.') });

/** The order of everything in a list. */
export const orderSchema = z.strictObject({ ids: z.array(z.uuid()).max(500) });

/** What can be deleted and restored. */
const REMOVABLE = ['release', 'track', 'mix', 'version', 'reference', 'destination', 'link'] as const;
export const removableSchema = z.strictObject({ kind: z.enum(REMOVABLE), id: z.uuid() });
export type Removable = z.infer<typeof removableSchema>;

/** What was deleted in the last days, the latest first. */
export const removedListSchema = z.array(
  z.object({ kind: z.enum(REMOVABLE), id: z.string(), title: z.string(), of: z.string(), removedAt: z.string() }),
);

export type NewRelease = z.infer<typeof newReleaseSchema>;

/** How far a release is. */
export const RELEASE_STATUSES = {
  waiting: 'Waiting for mixes',
  working: 'In work',
  client: 'With the client',
  approved: 'Approved',
  delivered: 'Delivered',
} as const;
export type ReleaseStatus = keyof typeof RELEASE_STATUSES;
const releaseStatusSchema = z.enum(
  Object.keys(RELEASE_STATUSES) as [ReleaseStatus, ...ReleaseStatus[]],
  'This is not a status of a release.',
);

export const releaseSummarySchema = z.object({
  id: z.string(),
  title: z.string(),
  artist: z.string(),
  status: releaseStatusSchema,
  tracks: z.number(),
  deliveries: z.number(),
  /** Tracks of which there is a delivery that meets its destination. */
  deliveredTracks: z.number(),
  /** Mixes that are being analysed, and those that were refused. */
  analysing: z.number(),
  refused: z.number(),
  createdAt: z.string(),
  archived: z.boolean(),
});
export type ReleaseSummary = z.infer<typeof releaseSummarySchema>;

/** Orders of the list of releases, as they are offered. */
export const RELEASE_ORDERS = {
  newest: 'Newest first',
  oldest: 'Oldest first',
  title: 'By title',
  artist: 'By artist',
} as const;
export type ReleaseOrder = keyof typeof RELEASE_ORDERS;

/** What of the list of releases is asked for. */
export const releaseListSchema = z.strictObject({
  /** In titles, artists, track titles, ISRC and EAN; empty for all. */
  search: z.string().trim().max(100, 'A search can have up to 100 characters.').default(''),
  order: z
    .enum(Object.keys(RELEASE_ORDERS) as [ReleaseOrder, ...ReleaseOrder[]], 'This is not an order of the list.')
    .default('newest'),
  /** Only those that are as far as this. */
  status: releaseStatusSchema.optional(),
  /** The release after which the page begins. */
  after: z.uuid('This is not a page of the list. Start from the first one.').optional(),
  /** Those in the archive instead. */
  archived: z.enum(['', 'yes']).optional(),
});
export type ReleaseList = z.infer<typeof releaseListSchema>;

/** Some of an account's releases, in the order that was asked for. */
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
  /** Frames of its working file; null while there is none. */
  frames: z.coerce.number().nullable(),
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

/** What is known of the master of a track: of its chosen version, through the mix in use. */
const masterStateSchema = z.object({
  versionId: z.string(),
  versionName: z.string(),
  /** Number of the step that the version is at. */
  step: z.number(),
  /** Where it starts and ends in its mix; null: with the mix. */
  edges: edgesSchema.nullable(),
  /** Null until it was measured. */
  summary: masterSummarySchema.nullable(),
  /** What it was checked in. */
  encodes: z.array(checkedEncodeSchema),
  /** Share of the measurement that is done; null when none is under way. */
  checking: z.number().nullable(),
  /** Why it could not be measured, as a sentence. */
  problem: z.string().nullable(),
});
export type MasterState = z.infer<typeof masterStateSchema>;

/** A listener's approval of a track. */
const approvalSchema = z.object({
  author: z.string(),
  at: z.string(),
  /** Name of the version that was approved. */
  version: z.string(),
  /** Whether the track is still as it was then: its chosen version, the step and the mix. */
  current: z.boolean(),
});
export type Approval = z.infer<typeof approvalSchema>;

export const trackSummarySchema = trackParticularsSchema.extend({
  id: z.string(),
  position: z.number(),
  /** The mix in use: the chosen one, else the newest that is ready, else the newest. */
  mix: mixSummarySchema.nullable(),
  /** Mixes, the newest first: a few of them in the list of a release. */
  mixes: z.array(mixSummarySchema),
  /** The newest delivery to each destination. */
  deliveries: z.array(latestDeliverySchema),
  /** Null while no mix is ready. */
  master: masterStateSchema.nullable(),
  /** How it follows the track before it. */
  joint: jointSchema,
  versions: z.array(z.object({ id: z.string(), name: z.string() })),
  /** The newest approval; null without one. */
  approval: approvalSchema.nullable(),
});
export type TrackSummary = z.infer<typeof trackSummarySchema>;

export const releaseDetailSchema = releaseParticularsSchema.extend({
  id: z.string(),
  archived: z.boolean(),
  tracks: z.array(trackSummarySchema),
  destinations: z.array(releaseDestinationSchema),
  /** Levels and drives of versions that differ for a destination. */
  adjustments: z.array(placedAdjustmentSchema),
  /** MIME type of the cover picture; null without one. */
  cover: z.object({ type: z.string(), hash: z.string() }).nullable(),
});
export type ReleaseDetail = z.infer<typeof releaseDetailSchema>;
