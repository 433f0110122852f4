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

/** Minutes and seconds. */
export function clock(seconds: number, decimals = 0): string {
  const scale = 10 ** decimals;
  const whole = Math.floor(Math.max(0, seconds) * scale + 1e-6) / scale;
  const minutes = Math.floor(whole / 60);
  const rest = (whole - minutes * 60).toFixed(decimals);
  return `${minutes}:${rest.padStart(decimals > 0 ? decimals + 3 : 2, '0')}`;
}
