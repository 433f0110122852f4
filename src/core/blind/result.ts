import { z } from 'zod';
import { figure } from '../measure/figure';
import { chanceOfAtLeast, gradesCount, RARE, wilsonInterval } from './statistics';

/** Telling two apart (two that are named and one that is not), or grading several with a hidden reference. */
export const BLIND_KINDS = ['tell', 'grade'] as const;
export type BlindKind = (typeof BLIND_KINDS)[number];

/** Letters of unnamed sounds, in order. */
export const LETTERS = ['A', 'B', 'C', 'D', 'E', 'F'] as const;
export type Letter = (typeof LETTERS)[number];

export const GRADES = { worst: 0, best: 100 } as const;

/** For each trial which of the named sounds each letter is, as places in the list of names. */
export type Assignment = readonly (readonly number[])[];

/** An answer: which of the two the unnamed one was, or a grade for each letter. */
export type BlindAnswer = { choice: 0 | 1 } | { grades: readonly number[] };

export const blindResultSchema = z.object({
  /** In plain words, a sentence each. */
  sentences: z.array(z.string()),
  /** Of telling apart: right answers, and the chance of as many by guessing; null for grades. */
  right: z.number().nullable(),
  chance: z.number().nullable(),
  /** Of grading, for each name in order: mean and half of the interval of 95 %; empty for telling apart. */
  grades: z.array(z.object({ mean: z.number(), half: z.number() })),
  /** Whether the grades can be counted: the hidden reference was heard as such. */
  counts: z.boolean(),
});
export type BlindResult = z.infer<typeof blindResultSchema>;

const percent = (share: number) => `${figure(100 * share, share < 0.1 ? 1 : 0)} %`;

/** Result of telling two apart. */
export function tellResult(
  names: readonly string[],
  assignment: Assignment,
  answers: readonly BlindAnswer[],
): BlindResult {
  const trials = answers.length;
  const right = answers.filter((answer, i) => 'choice' in answer && answer.choice === assignment[i][0]).length;
  const chance = chanceOfAtLeast(right, trials);
  const [low, high] = wilsonInterval(right, trials);
  const sentences = [
    `${right} of ${trials} right.`,
    `By guessing, as many or more come in ${percent(chance)} of such tests.`,
    chance <= RARE
      ? `So you very likely hear a difference between “${names[0]}” and “${names[1]}”.`
      : 'So this may well be chance: it shows no difference that you hear. That does not prove that there is none.',
    `With 95 % confidence you are right in ${percent(low)} to ${percent(high)} of the cases.`,
  ];
  return { sentences, right, chance, grades: [], counts: true };
}

/** Student's t for 95 % by degrees of freedom, from 1 up; beyond them that of the normal distribution. */
const T95 = [12.71, 4.3, 3.18, 2.78, 2.57, 2.45, 2.36, 2.31, 2.26, 2.23, 2.2, 2.18, 2.16, 2.14, 2.13];
const NORMAL95 = 1.96;

/** Mean of some values, and half of the interval in which the true mean lies with 95 % confidence; 0 for one value. */
export function meanWithin95(values: readonly number[]): { mean: number; half: number } {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  if (values.length < 2) return { mean, half: 0 };
  const variance = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (values.length - 1);
  return { mean, half: (T95[values.length - 2] ?? NORMAL95) * Math.sqrt(variance / values.length) };
}

/** Result of grading with a hidden reference, which is the first of the names. */
export function gradeResult(
  names: readonly string[],
  assignment: Assignment,
  answers: readonly BlindAnswer[],
): BlindResult {
  const gradesOf = names.map((_, place) =>
    answers.flatMap((answer, i) => ('grades' in answer ? [answer.grades[assignment[i].indexOf(place)]] : [])),
  );
  const grades = gradesOf.map(meanWithin95);
  const counts = gradesCount(gradesOf[0]);
  const order = names.map((_, place) => place).sort((a, b) => grades[b].mean - grades[a].mean);
  const ranked = order.map(
    (place) => `“${names[place]}” ${figure(grades[place].mean, 0)} ± ${figure(grades[place].half, 0)}`,
  );
  const [best, second] = order;
  const apart = grades[best].mean - grades[best].half > grades[second].mean + grades[second].half;
  return {
    sentences: [
      `Mean grades, with the interval of 95 %: ${ranked.join(', ')}.`,
      apart
        ? `“${names[best]}” is ahead beyond doubt.`
        : `“${names[best]}” and “${names[second]}” can’t be told apart by these grades.`,
      counts
        ? 'The hidden reference was heard as such, so the grades count.'
        : 'The hidden reference got less than 90 in more than 15 % of the trials: after ITU-R BS.1534 such grades are not counted.',
    ],
    right: null,
    chance: null,
    grades,
    counts,
  };
}
