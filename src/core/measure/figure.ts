const MINUS = '\u2212';

/** A figure with a true minus sign. */
export function figure(value: number, decimals = 1): string {
  if (value === -Infinity) return `${MINUS}∞`;
  const text = Math.abs(value).toFixed(decimals);
  return value < 0 && Number(text) !== 0 ? MINUS + text : text;
}
