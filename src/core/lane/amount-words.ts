import type { Quantity } from '../stages/setting';

/** How a quantity is written. */
type Scale = Pick<Quantity, 'unit' | 'step'>;

const minus = (text: string) => text.replace('-', '\u2212');

/** A number in the unit it is written in: from 1 kHz on in kHz, else with the decimals of its step. */
function figureOf(value: number, { step }: Scale, kilohertz: boolean): string {
  if (kilohertz) return String(Number((value / 1000).toPrecision(3)));
  return minus(value.toFixed(Math.max(0, Math.ceil(-Math.log10(step) - 1e-9))));
}

/** Values of one quantity with their unit, once: “4.5 → 5.7 kHz”. */
export function amountWords(scale: Scale, ...values: readonly number[]): string {
  const kilohertz = scale.unit === 'Hz' && Math.max(...values) >= 1000;
  const unit = kilohertz ? 'kHz' : scale.unit;
  return `${values.map((value) => figureOf(value, scale, kilohertz)).join(' → ')}${unit && ` ${unit}`}`;
}
