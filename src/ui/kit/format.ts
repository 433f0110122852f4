import { change, clock, figure } from '../../core/measure/figure';

export { change, clock, figure };

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

/** "27 Nov 2026, 14:05", in the time of whoever looks. */
export function dateAndTime(time: string): string {
  return new Date(time).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
}
