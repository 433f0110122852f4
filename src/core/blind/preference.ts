import { chanceOfAtLeast, RARE } from './statistics';

/**
 * How a preference between two came out, as a sentence; `second` of `trials` went to the second name. Either could have won, so
 * both tails of the binomial law count.
 *
 * @example
 * preferenceSentence(['the mix', '“First”'], 4, 8) // 'Chose “First” in 4 of 8 trials, the mix in 4. This may well be chance.'
 */
export function preferenceSentence(names: readonly [string, string], second: number, trials: number): string {
  const first = trials - second;
  const [more, fewer] = second >= first ? [1, 0] : [0, 1];
  const most = Math.max(first, second);
  const chance = Math.min(1, 2 * chanceOfAtLeast(most, trials));
  const verdict = chance <= RARE ? 'This is hardly chance.' : 'This may well be chance.';
  return `Chose ${names[more]} in ${most} of ${trials} trials, ${names[fewer]} in ${trials - most}. ${verdict}`;
}
