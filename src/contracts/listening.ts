import { z } from 'zod';
import { moment } from './moment';

/** What can be heard of a track: its mix, the chosen version, and one other version. */
const HEARD_SOURCES = ['mix', 'master', 'other'] as const;
export const heardSourceSchema = z.enum(HEARD_SOURCES);
export type HeardSource = z.infer<typeof heardSourceSchema>;

/** How it is streamed. */
export const STREAM_CODECS = ['opus', 'aac', 'flac'] as const;
export type StreamCodec = (typeof STREAM_CODECS)[number];

const LONGEST_PASSPHRASE = 100;
/** As many as a disc has. */
export const MOST_HEARD_TRACKS = 99;
/** Trials of a preference test. */
export const PREFERENCE_TRIALS = { least: 3, most: 16, usual: 6 } as const;

const name = z.string().trim().min(1, 'Enter a name.').max(60, 'A name can have up to 60 characters.');
const expiry = moment('Choose a day.').nullable();

/** A preference test that comes with a link: which of two versions of a track does the listener like better? */
const preferenceSchema = z
  .strictObject({
    trackId: z.uuid(),
    between: z.tuple([heardSourceSchema, heardSourceSchema]),
    trials: z.int().min(PREFERENCE_TRIALS.least).max(PREFERENCE_TRIALS.most),
  })
  .refine(({ between: [one, two] }) => one !== two, 'A blind test needs two different candidates.');

/** A link that is made for somebody to listen on. */
export const newLinkSchema = z.strictObject({
  /** Whom it is for. */
  recipient: name,
  /** What is heard, in the order of the release. */
  tracks: z
    .array(
      z.strictObject({
        trackId: z.uuid(),
        /** Null: the chosen version. */
        versionId: z.uuid().nullable().default(null),
        /** Another version to compare it with. */
        otherVersionId: z.uuid().nullable().default(null),
      }),
    )
    .min(1, 'Choose at least one track.')
    .max(MOST_HEARD_TRACKS),
  passphrase: z
    .string()
    .min(8, 'A passphrase has at least 8 characters.')
    .max(LONGEST_PASSPHRASE, `A passphrase can have up to ${LONGEST_PASSPHRASE} characters.`)
    .nullable()
    .default(null),
  /** When it expires; null: never. */
  expiresAt: expiry.default(null),
  /** Whether files can be saved. */
  download: z.boolean().default(false),
  /** Whether the master can be streamed without loss. */
  lossless: z.boolean().default(false),
  /** Whether handles can be moved and changes of them proposed. */
  handles: z.boolean().default(false),
  preference: preferenceSchema.nullable().default(null),
});
export type NewLink = z.infer<typeof newLinkSchema>;

/** What can be changed of a link. */
export const changeLinkSchema = z.strictObject({
  expiresAt: expiry.optional(),
  /** Ends it, or opens it again. */
  revoked: z.boolean().optional(),
  /** Renders the same tracks again as their versions are now. */
  update: z.literal(true).optional(),
  /** Gives it another address; the old one ends. */
  newAddress: z.literal(true).optional(),
});
export type ChangeLink = z.infer<typeof changeLinkSchema>;

export const linkSummarySchema = z.object({
  id: z.string(),
  recipient: z.string(),
  /** Path of the page; null where it can’t be read any more, since the server has another secret than then. */
  path: z.string().nullable(),
  status: z.enum(['waiting', 'rendering', 'finished', 'failed']),
  progress: z.number(),
  problem: z.string().nullable(),
  heldBecause: z.string().nullable(),
  /** Whether there is something to hear already. */
  ready: z.boolean(),
  /** Tracks and their versions, as sentences. */
  tracks: z.array(z.object({ title: z.string(), versions: z.array(z.string()) })),
  protected: z.boolean(),
  expiresAt: z.string().nullable(),
  revokedAt: z.string().nullable(),
  download: z.boolean(),
  lossless: z.boolean(),
  handles: z.boolean(),
  visits: z.number(),
  lastVisitAt: z.string().nullable(),
  createdAt: z.string(),
});
export type LinkSummary = z.infer<typeof linkSummarySchema>;
export const linkListSchema = z.array(linkSummarySchema);
export const createdLinkSchema = z.object({ id: z.string() });

/** Columns of the picture of a track. */
export const OUTLINE_COLUMNS = 160;

/** A track on a listening page: where it lies in what is streamed. */
export const heardTrackSchema = z.object({
  id: z.string(),
  title: z.string(),
  artist: z.string(),
  /** Name of the version that is heard, and of the other one. */
  version: z.string(),
  other: z.string().nullable(),
  startSeconds: z.number(),
  endSeconds: z.number(),
  /** Highest level of each column in percent of full scale. */
  outline: z.array(z.number()).max(OUTLINE_COLUMNS),
});
export type HeardTrack = z.infer<typeof heardTrackSchema>;

/** A note of a listener, at a place of what is streamed. */
export const listenerNoteSchema = z.object({
  id: z.string(),
  trackId: z.string(),
  /** Seconds from the start of the track as it is heard. */
  seconds: z.number(),
  text: z.string(),
  author: z.string(),
});
export type ListenerNote = z.infer<typeof listenerNoteSchema>;

/** A preference test as far as a listener may know it. */
export const preferenceTestSchema = z.object({
  trackId: z.string(),
  trials: z.number(),
  /** Null: not begun. */
  testId: z.string().nullable(),
  answered: z.number(),
  /** In words, once all trials are answered. */
  result: z.string().nullable(),
});
export type PreferenceTest = z.infer<typeof preferenceTestSchema>;

/** Everything that a listening page shows. */
export const listeningPageSchema = z.object({
  id: z.string(),
  release: z.string(),
  artist: z.string(),
  /** Who sends it. */
  engineer: z.string(),
  studio: z.string(),
  recipient: z.string(),
  download: z.boolean(),
  /** Whether there is a lossless stream. */
  lossless: z.boolean(),
  /** Whether handles can be moved. */
  handles: z.boolean(),
  sources: z.array(heardSourceSchema),
  /** Changes whenever the files do: part of their addresses. */
  edition: z.string(),
  /** Share of what is rendered before there is something to hear. */
  progress: z.number(),
  /** Empty until it was rendered. */
  tracks: z.array(heardTrackSchema),
  notes: z.array(listenerNoteSchema),
  /** Tracks that were approved on this link. */
  approved: z.array(z.string()),
  preference: preferenceTestSchema.nullable(),
});
export type ListeningPage = z.infer<typeof listeningPageSchema>;

export const passphraseSchema = z.strictObject({
  passphrase: z.string().min(1, 'Enter the passphrase.').max(LONGEST_PASSPHRASE),
});

export const newListenerNoteSchema = z.strictObject({
  trackId: z.uuid(),
  seconds: z.number().min(0).max(36000),
  text: z.string().trim().min(1, 'Write what you hear.').max(2000, 'A note can have up to 2000 characters.'),
  author: name,
});
export type NewListenerNote = z.infer<typeof newListenerNoteSchema>;

/** Approves tracks, or takes it back. */
export const approveSchema = z.strictObject({
  trackIds: z.array(z.uuid()).min(1).max(MOST_HEARD_TRACKS),
  approved: z.boolean(),
  author: name,
});
export type Approve = z.infer<typeof approveSchema>;

export const startPreferenceSchema = z.strictObject({ author: name });
export const preferenceAnswerSchema = z.strictObject({
  trial: z.int().min(0).max(PREFERENCE_TRIALS.most),
  /** Which letter is liked better. */
  letter: z.literal(['A', 'B']),
});

/** What listeners answered, the newest first. */
export const inboxSchema = z.object({
  unseen: z.number(),
  items: z.array(
    z.object({
      kind: z.enum(['note', 'approval', 'preference', 'proposal']),
      id: z.string(),
      author: z.string(),
      releaseId: z.string(),
      release: z.string(),
      trackId: z.string(),
      track: z.string(),
      /** What a note says and where, or how a test came out. */
      text: z.string(),
      seconds: z.number().nullable(),
      at: z.string(),
      seen: z.boolean(),
    }),
  ),
});
export type Inbox = z.infer<typeof inboxSchema>;
export type InboxItem = Inbox['items'][number];

/** Marks answers as seen that came up to a moment. */
export const seenSchema = z.strictObject({ until: moment() });
