import { z } from 'zod';
import { BLIND_KINDS, blindResultSchema, GRADES, LETTERS } from '../core/blind/result';

export const MOST_TRIALS = 50;
/** Longest passage in seconds: what one holds in mind is much shorter. */
export const LONGEST_PASSAGE_SECONDS = 30;
const SHORTEST_PASSAGE_SECONDS = 0.5;

const RATES = { least: 8000, most: 384000 };

export const newBlindTestSchema = z
  .strictObject({
    kind: z.enum(BLIND_KINDS),
    /** What is compared, in order; of grades the first is the reference. */
    names: z.array(z.string().trim().min(1).max(80)).min(2, 'A blind test needs two candidates.').max(LETTERS.length),
    trials: z.int().min(1, 'Choose how many trials there are.').max(MOST_TRIALS, `At most ${MOST_TRIALS} trials.`),
    /** The passage in the track, in seconds. */
    startSeconds: z.number().min(0).max(36000),
    sampleRate: z.int().min(RATES.least).max(RATES.most),
    frames: z.int().min(1),
  })
  .refine(({ kind, names }) => kind === 'grade' || names.length === 2, 'Two candidates are told apart, no more.')
  .refine(
    ({ frames, sampleRate }) => frames <= LONGEST_PASSAGE_SECONDS * sampleRate,
    `The passage is longer than ${LONGEST_PASSAGE_SECONDS} s. Loop a shorter one.`,
  )
  .refine(({ frames, sampleRate }) => frames >= SHORTEST_PASSAGE_SECONDS * sampleRate, 'Loop at least half a second.');
export type NewBlindTest = z.infer<typeof newBlindTestSchema>;

const grade = z.number().min(GRADES.worst).max(GRADES.best);
export const blindAnswerSchema = z.strictObject({
  /** Counted from 0; the one that is due. */
  trial: z.int().min(0),
  answer: z.union([
    z.strictObject({ choice: z.literal([0, 1]) }),
    z.strictObject({ grades: z.array(grade).max(LETTERS.length).readonly() }),
  ]),
});
export type GivenBlindAnswer = z.infer<typeof blindAnswerSchema>;

const BLIND_STATUSES = ['gathering', 'running', 'finished'] as const;

/** A blind test as far as it may be known: which letter is which only after the end. */
export const blindTestSchema = z.object({
  id: z.string(),
  kind: z.enum(BLIND_KINDS),
  names: z.array(z.string()),
  trials: z.number(),
  startSeconds: z.number(),
  sampleRate: z.number(),
  frames: z.number(),
  status: z.enum(BLIND_STATUSES),
  /** Trials that are answered. */
  answered: z.number(),
  createdAt: z.string(),
  result: blindResultSchema.nullable(),
  /** After the end: for each trial, which name each letter was, as places in `names`. */
  assignment: z.array(z.array(z.number())).nullable(),
  /** After the end: what was answered in each trial. */
  answers: z.array(blindAnswerSchema.shape.answer).nullable(),
});
export type BlindTest = z.infer<typeof blindTestSchema>;

export const blindTestListSchema = z.array(blindTestSchema);
