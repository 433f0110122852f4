/**
 * Modified Bessel function of the first kind, order 0: the sum of ((x/2)^k / k!)², for k from 0 (Abramowitz and Stegun
 * 9.6.12). Sums and products only, so the same everywhere.
 * @example
 * besselI0(1) // 1.26607
 */
export function besselI0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; k < 40; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}
