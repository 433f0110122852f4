import { z } from 'zod';

/** What a note is about; a loop is a passage with a name. */
export const NOTE_KINDS = ['fault', 'wish', 'question', 'done', 'loop'] as const;
export type NoteKind = (typeof NOTE_KINDS)[number];

/** Longest programme in seconds, and more. */
const LONGEST_SECONDS = 36000;
export const MOST_NOTES = 500;

const seconds = z
  .number()
  .min(0, 'A note lies within the track.')
  .max(LONGEST_SECONDS, 'A note lies within the track.');
const note = z.strictObject({
  kind: z.enum(NOTE_KINDS),
  /** Where it stands in the track's own time, which is that of its first mix. */
  startSeconds: seconds,
  /** Where it ends; null for a single place. */
  endSeconds: seconds.nullable(),
  text: z.string().trim().min(1, 'Write what the note says.').max(2000, 'A note can have up to 2000 characters.'),
});
type Span = Partial<Pick<z.infer<typeof note>, 'startSeconds' | 'endSeconds'>>;
const rises = ({ startSeconds = 0, endSeconds = null }: Span) => endSeconds === null || endSeconds > startSeconds;
const RISES = 'A passage ends after it starts.';

export const newNoteSchema = note.refine(rises, RISES);
export type NewNote = z.infer<typeof newNoteSchema>;

/** Any part of a note can be changed; its two ends go together. */
export const changeNoteSchema = note
  .partial()
  // Brings back one that was deleted.
  .extend({ restored: z.literal(true).optional() })
  .refine(({ startSeconds, endSeconds }) => (startSeconds === undefined) === (endSeconds === undefined), {
    message: 'Give both ends of the note.',
  })
  .refine(rises, RISES);
export type ChangeNote = z.infer<typeof changeNoteSchema>;

export const noteSchema = note.extend({
  id: z.string(),
  createdAt: z.string(),
  /** Who wrote it on a listening page; null for the engineer. */
  author: z.string().nullable(),
});
export type Note = z.infer<typeof noteSchema>;
