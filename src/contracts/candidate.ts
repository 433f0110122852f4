import { z } from 'zod';

/** Candidates have keys of one digit. */
export const MOST_CANDIDATES = 9;

/** Where a reference stands for each place of the track. */
export const REFERENCE_PLACES = ['same', 'share', 'loudest'] as const;
export type ReferencePlace = (typeof REFERENCE_PLACES)[number];

/** Shorter loops are a tone. */
const SHORTEST_LOOP_SECONDS = 0.1;
const seconds = z.number().min(0).max(36000);

/** A passage of a reference, in its own seconds. */
export const referenceLoopSchema = z
  .strictObject({ startSeconds: seconds, endSeconds: seconds })
  .refine(
    ({ startSeconds, endSeconds }) => endSeconds - startSeconds >= SHORTEST_LOOP_SECONDS,
    `A loop lasts at least ${SHORTEST_LOOP_SECONDS} s.`,
  );

/** Something that can be chosen to be heard and compared. */
export const candidateSchema = z.discriminatedUnion('kind', [
  /** A mix of the track; null for the mix in use. */
  z.strictObject({ kind: z.literal('mix'), mixId: z.uuid().nullable() }),
  /** The version being worked on. */
  z.strictObject({ kind: z.literal('edited') }),
  /** Another version of the track, as saved. */
  z.strictObject({ kind: z.literal('version'), versionId: z.uuid() }),
  /** The version being worked on without one of its stages. */
  z.strictObject({ kind: z.literal('without'), stage: z.string().min(1).max(64) }),
  /** The master of another track of the release. */
  z.strictObject({ kind: z.literal('track'), trackId: z.uuid() }),
  /** A reference of the account's shelf, and where it stands for each place of the track. */
  z.strictObject({
    kind: z.literal('reference'),
    referenceId: z.uuid(),
    /** At the same time, at the same share of the length, or with both loudest passages together. */
    place: z.enum(REFERENCE_PLACES).default('same'),
    /** A passage of its own that it stays in; null for none. */
    loop: referenceLoopSchema.nullable().default(null),
  }),
  /** An encode of a master. */
  z.strictObject({ kind: z.literal('encode'), encodeId: z.uuid() }),
  /** A finished file. */
  z.strictObject({ kind: z.literal('delivery'), deliveryId: z.uuid() }),
]);
export type Candidate = z.infer<typeof candidateSchema>;

/** Version of the saved form. */
const FORM = 1;

/** What the listening bar of a track offers, in order. */
export const candidateListSchema = z.strictObject({
  schema: z.literal(FORM).default(FORM),
  candidates: z
    .array(candidateSchema)
    .max(MOST_CANDIDATES, `A track has at most ${MOST_CANDIDATES} candidates. Remove one first.`),
});
export type CandidateList = z.infer<typeof candidateListSchema>;

/** What a track offers at first: the mix in use, and the version being worked on. */
export const FIRST_CANDIDATES: readonly Candidate[] = [{ kind: 'mix', mixId: null }, { kind: 'edited' }];
