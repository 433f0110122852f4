/** Probability below which chance is taken to be no explanation: 5 %, as most listening tests take it (common practice, no source). */
export const RARE = 0.05;

/**
 * Probability that guessing gives at least so many right answers: the upper tail of the binomial law, for a chance of
 * `share` each.
 * @example
 * chanceOfAtLeast(9, 10) // 0.0107
 */
export function chanceOfAtLeast(right: number, trials: number, share = 0.5): number {
  let term = (1 - share) ** trials;
  let below = 0;
  for (let k = 0; k < right; k++) {
    below += term;
    term *= ((trials - k) / (k + 1)) * (share / (1 - share));
  }
  return Math.min(1, Math.max(0, 1 - below));
}

/** Standard deviations of a normal distribution within which 95 % lie. */
const Z95 = 1.959964;

/**
 * Where the true share of wins lies with 95 % confidence, after so many of some trials (E. B. Wilson, "Probable
 * Inference, the Law of Succession, and Statistical Inference", 1927).
 * @example
 * wilsonInterval(15, 20) // [0.5313, 0.8881]
 */
export function wilsonInterval(wins: number, trials: number): [low: number, high: number] {
  if (trials === 0) return [0, 1];
  const share = wins / trials;
  const square = (Z95 * Z95) / trials;
  const middle = (share + square / 2) / (1 + square);
  const half = (Z95 * Math.sqrt((share * (1 - share)) / trials + square / (4 * trials))) / (1 + square);
  return [Math.max(0, middle - half), Math.min(1, middle + half)];
}

/** Grade below which a hidden reference was not heard as such, and the share of trials in which that may happen. */
const REFERENCE_GRADE = 90;
const MOST_MISSED = 0.15;

/**
 * Whether grades can be counted: whoever gives the hidden reference less than 90 in more than 15 % of the trials does not
 * hear it reliably (after ITU-R BS.1534; from memory).
 */
export function gradesCount(referenceGrades: readonly number[]): boolean {
  const missed = referenceGrades.filter((grade) => grade < REFERENCE_GRADE).length;
  return referenceGrades.length > 0 && missed <= MOST_MISSED * referenceGrades.length;
}
