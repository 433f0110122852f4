/** How values are spread: the extremes, the quartiles and the median. */
export interface Spread {
  least: number;
  lower: number;
  median: number;
  upper: number;
  most: number;
}

/**
 * The spread of values, of which those that are not numbers don't count; null when none is left.
 * @example
 * spreadOf([3, 1, NaN, 2]).median // 2
 */
export function spreadOf(values: ArrayLike<number>): Spread | null {
  const known = Float64Array.from(values)
    .filter((value) => !Number.isNaN(value))
    .sort();
  if (known.length === 0) return null;
  /** Between two neighbours where the share falls between them. */
  const at = (share: number) => {
    const place = share * (known.length - 1);
    const low = Math.floor(place);
    return known[low] + (place - low) * (known[Math.min(known.length - 1, low + 1)] - known[low]);
  };
  return { least: known[0], lower: at(0.25), median: at(0.5), upper: at(0.75), most: known[known.length - 1] };
}

/** The spread in each of so many equal stretches of a series. */
export function spreadsOver(values: Float32Array, stretches: number): (Spread | null)[] {
  return Array.from({ length: stretches }, (_, i) => {
    const from = Math.floor((i * values.length) / stretches);
    const to = Math.max(from + 1, Math.floor(((i + 1) * values.length) / stretches));
    return spreadOf(values.subarray(from, to));
  });
}
