/** Modified Bessel function of the first kind, order 0, by its power series (sums and products only, so the same everywhere). */
export function besselI0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; k < 40; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}
