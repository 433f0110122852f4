import type { BlindTest } from '../../../contracts/blind-test';
import { LETTERS } from '../../../core/blind/result';
import { chanceOfAtLeast } from '../../../core/blind/statistics';
import { clock, dateAndTime, figure } from '../../kit/format';

/** What chance does less often than this can be taken for hearing. */
const RARE = 0.05;

/** How many of some trials have to be right before guessing is no explanation; null where even all of them are not enough. */
function rightNeeded(trials: number): number | null {
  for (let right = 0; right <= trials; right++) if (chanceOfAtLeast(right, trials) <= RARE) return right;
  return null;
}

/** What a number of trials can show, as a sentence. */
export function trialsWords(trials: number): string {
  const needed = rightNeeded(trials);
  if (needed === null) return 'Too few: even if all are right it may be luck. Take 5 or more.';
  const chance = figure(100 * chanceOfAtLeast(needed, trials), 1);
  return `${needed} of ${trials} have to be right to rule out luck: guessing gets that far in ${chance} % of tests.`;
}

const quoted = (name: string) => `“${name}”`;

/** What is compared: “Mix” and “Master”, or “Master”, “Loud” against “Mix”. */
export function comparedWords({ kind, names }: Pick<BlindTest, 'kind' | 'names'>): string {
  return kind === 'tell'
    ? `${quoted(names[0])} and ${quoted(names[1])}`
    : `${names.slice(1).map(quoted).join(', ')} against ${quoted(names[0])}`;
}

/** "0:31.0–0:41.0". */
export function passageWords({
  startSeconds,
  frames,
  sampleRate,
}: Pick<BlindTest, 'startSeconds' | 'frames' | 'sampleRate'>): string {
  return `${clock(startSeconds, 1)}–${clock(startSeconds + frames / sampleRate, 1)}`;
}

/** What was answered of one trial; '' where that was not kept. */
function answerWords(answer: NonNullable<BlindTest['answers']>[number] | undefined, names: readonly string[]): string {
  if (!answer) return '';
  if ('choice' in answer) return `; answered “${names[answer.choice]}”`;
  return `; graded ${answer.grades.map((grade, i) => `${LETTERS[i]} ${grade}`).join(', ')}`;
}

/** What the letters of each trial were, and what was answered, a line each. */
function lettersWords({ kind, names, assignment, answers }: BlindTest): string[] {
  return (assignment ?? []).map((places, trial) => {
    const letters = kind === 'tell' ? ['X'] : LETTERS;
    const were = places.map((place, i) => `${letters[i]} was “${names[place]}”`).join(', ');
    return `Trial ${trial + 1}: ${were}${answerWords(answers?.[trial], names)}`;
  });
}

/** A finished test as text to keep or to send. */
export function blindTestAsText(title: string, test: BlindTest): string {
  return [
    `${title}: blind test of ${comparedWords(test)}`,
    `${dateAndTime(test.createdAt)}, ${test.trials} trials, passage ${passageWords(test)}, equal in loudness within 0.1 LU`,
    '',
    ...(test.result?.sentences ?? []),
    '',
    ...lettersWords(test),
    '',
  ].join('\n');
}
