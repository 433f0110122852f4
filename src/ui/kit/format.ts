import { change, figure } from '../../core/measure/figure';

export { change, figure };

/** A level or loudness that may be missing. */
export function figureOr(value: number | null | undefined, none = '–', decimals = 1): string {
  return value === null || value === undefined ? none : figure(value, decimals);
}

/** Minutes and seconds. */
export function clock(seconds: number, decimals = 0): string {
  const scale = 10 ** decimals;
  const whole = Math.floor(Math.max(0, seconds) * scale + 1e-6) / scale;
  const minutes = Math.floor(whole / 60);
  const rest = (whole - minutes * 60).toFixed(decimals);
  return `${minutes}:${rest.padStart(decimals > 0 ? decimals + 3 : 2, '0')}`;
}

/** A frequency as an axis shows it. */
export function hertz(value: number): string {
  return value >= 1000 ? `${Number((value / 1000).toPrecision(3))} k` : String(Math.round(value));
}

/** "44.1 kHz, 24-bit" */
export function audioFormat({
  sampleRate,
  bits,
  float,
}: {
  sampleRate: number;
  bits: number;
  float?: boolean;
}): string {
  return `${sampleRate / 1000} kHz, ${bits}-bit${float ? ' float' : ''}`;
}

export function megabytes(bytes: number): string {
  return `${(bytes / 1e6).toFixed(1)} MB`;
}

/** A plural with its number. */
export function count(value: number, one: string, many = `${one}s`): string {
  return `${value} ${value === 1 ? one : many}`;
}
