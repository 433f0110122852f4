import { z } from 'zod';
import { moment } from './moment';
import { laneSchema } from '../core/lane/schema';
import { MOST_HANDLES } from '../core/house/schema';

const percent = z.number().min(0).max(100);
const author = z.string().trim().min(1, 'Enter a name.').max(60, 'A name can have up to 60 characters.');

/** Where handles were put; those that are left out stay. */
export const positionsSchema = z.strictObject({
  handles: z
    .record(z.string().max(20), percent)
    .refine((handles) => Object.keys(handles).length <= MOST_HANDLES, `A lane has at most ${MOST_HANDLES} handles.`),
  amountPercent: z.number().min(0).max(150).optional(),
});

/** A change of a version's handles that somebody else decides on. */
export const newProposalSchema = z.strictObject({
  versionId: z.uuid(),
  /** Step of the version that it was heard on. */
  step: z.int().min(0),
  positions: positionsSchema,
  author,
  /** When it was made, which can be long before it is sent: ISO 8601. */
  madeAt: moment(),
});
export type NewProposal = z.infer<typeof newProposalSchema>;

export const proposalSchema = z.object({
  id: z.string(),
  trackId: z.string(),
  versionId: z.string(),
  version: z.string(),
  author: z.string(),
  madeAt: z.string(),
  /** In words: which handle went from where to where. */
  changes: z.string(),
  /** The lane with it: of the version as it is now. Null where its handles are gone. */
  lane: laneSchema.nullable(),
  /** Whether the version was changed since it was heard. */
  moved: z.boolean(),
  decision: z.enum(['taken', 'refused']).nullable(),
});
export type Proposal = z.infer<typeof proposalSchema>;
export const proposalListSchema = z.array(proposalSchema);

/** Takes a proposal as the next step after one that a window knows, or refuses it. */
export const decideSchema = z.discriminatedUnion('decision', [
  z.strictObject({ decision: z.literal('taken'), after: z.int().min(0) }),
  z.strictObject({ decision: z.literal('refused') }),
]);
export type Decide = z.infer<typeof decideSchema>;

/** What is needed to hear a version's handles live. */
export const handlesPageSchema = z.object({
  trackId: z.string(),
  title: z.string(),
  release: z.string(),
  releaseId: z.string(),
  versionId: z.string(),
  version: z.string(),
  step: z.number(),
  lane: laneSchema,
  mix: z.object({ id: z.string(), frames: z.number(), sampleRate: z.number() }),
  /** Name under which a proposal is sent. */
  author: z.string(),
});
export type HandlesPage = z.infer<typeof handlesPageSchema>;
