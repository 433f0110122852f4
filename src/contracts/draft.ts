import { z } from 'zod';
import { takenDraftSchema } from '../core/draft/first-draft/habits';

/** What an account did to its first drafts, the newest first, and whether the next ones lean that way. */
export const draftHabitsSchema = z.object({ leans: z.boolean(), drafts: z.array(takenDraftSchema) });
export type DraftHabits = z.infer<typeof draftHabitsSchema>;

export const changeDraftHabitsSchema = z.strictObject({ leans: z.boolean() });

/** What was done to a draft that is being taken. */
export const newTakenDraftSchema = takenDraftSchema;
