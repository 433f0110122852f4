import type { Quantity } from '../../core/stages/setting';
import { figure } from './format';

/** What a typed text means for a control: its value, with a sentence when the range held it; or why it means nothing. */
export type TypedValue = { value: number; note?: string } | { problem: string };

/** Units that may follow a number, by the control's own unit, and what one of them is in that unit. */
const UNITS: Record<string, Record<string, number>> = {
  Hz: { hz: 1, k: 1000, khz: 1000 },
  ms: { ms: 1, s: 1000, sec: 1000, us: 0.001, µs: 0.001 },
  dB: { db: 1 },
  dBFS: { db: 1, dbfs: 1 },
  dBTP: { db: 1, dbtp: 1 },
  '%': { '%': 1 },
  ': 1': { ':1': 1 },
};

const NUMBER = /^([+-]?(?:\d+(?:\.\d*)?|\.\d+))(.*)$/;
/** "1k5" for 1.5 k, as components are labelled. */
const K_AS_POINT = /^(\d+)k(\d+)$/;

const EXAMPLES: Record<string, string> = {
  Hz: '440, 2k or 1.5 kHz',
  ms: '25, 250 ms or 1.2 s',
  dB: '−3.5 or +4 dB',
  dBFS: '−18 or −18.5 dBFS',
  dBTP: '−1 or −1.5 dBTP',
  '%': '50 or 50 %',
  ': 1': '2 or 2:1',
};

/** Decimals that show every step of a control. */
export function decimalsOf(step: number): number {
  return step >= 1 ? 0 : step >= 0.1 ? 1 : 2;
}

/** The closest value that a control can take. */
export function heldInRange({ min, max, step }: Quantity, value: number): number {
  const within = Math.min(max, Math.max(min, value));
  const rounded = Number((Math.round(within / step) * step).toFixed(decimalsOf(step)));
  return Math.min(max, Math.max(min, rounded));
}

/** A value with the unit of its control, as it stands in a sentence. */
export function valueWords({ unit, step }: Quantity, value: number): string {
  const number = figure(value, decimalsOf(step));
  return unit.startsWith(':') ? `${number}${unit.replace(' ', '')}` : unit ? `${number} ${unit}` : number;
}

/** Reads a value as people type it: "+4 dB", "2k", "1.5 kHz", "250ms", "2:1", with comma or point, in any spacing. */
export function typedValue(text: string, quantity: Quantity): TypedValue {
  const { title, unit, min, max } = quantity;
  const plain = text.replace(/\s/g, '').replace(/[−–]/g, '-').replace(',', '.').replace('μ', 'µ').toLowerCase();
  const units = Object.hasOwn(UNITS, unit) ? UNITS[unit] : {};
  const found = NUMBER.exec('k' in units ? plain.replace(K_AS_POINT, '$1.$2k') : plain);
  const factor = found?.[2] === '' ? 1 : found && Object.hasOwn(units, found[2]) ? units[found[2]] : undefined;
  if (!found || factor === undefined) {
    const example = Object.hasOwn(EXAMPLES, unit) ? EXAMPLES[unit] : valueWords(quantity, quantity.default);
    return { problem: `“${text.trim()}” is not a value for ${title}. Type ${example}.` };
  }
  const value = Number(found[1]) * factor;
  const held = heldInRange(quantity, value);
  if (value >= min && value <= max) return { value: held };
  return { value: held, note: `${title} goes from ${valueWords(quantity, min)} to ${valueWords(quantity, max)}.` };
}
