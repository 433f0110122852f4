const MINUS = '\u2212';

/** A figure with a true minus sign. */
export function figure(value: number, decimals = 1): string {
  if (value === -Infinity) return `${MINUS}∞`;
  const text = Math.abs(value).toFixed(decimals);
  return value < 0 && Number(text) !== 0 ? MINUS + text : text;
}

/** A signed change in dB. */
export function change(db: number, decimals = 1): string {
  const text = figure(db, decimals);
  return db > 0 && Number(db.toFixed(decimals)) !== 0 ? `+${text}` : text;
}
