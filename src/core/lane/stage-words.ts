import type { z } from 'zod';
import { definitionOf } from '../stages/registry';
import { bareSchema, described } from '../stages/setting';
import { amountWords } from './amount-words';
import type { Stage } from './schema';

/** A value as its control shows it, with its title; null for a group or a list. */
function settingWords(value: unknown, schema: z.ZodType): string | null {
  const { quantity, choice, toggle } = described(schema);
  if (quantity && typeof value === 'number') return `${quantity.title} ${amountWords(quantity, value)}`;
  if (choice) {
    const option = choice.options.find((each) => each.value === value);
    return `${choice.title} ${option?.title ?? String(value)}`;
  }
  if (!toggle) return null;
  const state = value === true ? 'on' : 'off';
  // What is simply on or off needs no title.
  return toggle.title === 'On' ? state : `${toggle.title} ${state}`;
}

function words(value: unknown, schema: z.ZodType, number: string): string[] {
  if (typeof value !== 'object' || value === null) return [];
  const { shape = {}, element } = bareSchema(schema) as { shape?: Record<string, z.ZodType>; element?: z.ZodType };
  if (Array.isArray(value)) return element ? value.flatMap((each, i) => lines(each, element, `${number}${i + 1}`)) : [];
  return partsOf(value, shape).flatMap(([each, part]) => words(each, part, number));
}

/** The values of a group in the order of its schema, as its panel shows them: a database keeps them in another. */
function partsOf(value: object, shape: Record<string, z.ZodType>): [unknown, z.ZodType][] {
  const known = Object.keys(shape).filter((key) => Object.hasOwn(value, key));
  return known.map((key) => [(value as Record<string, unknown>)[key], shape[key]]);
}

/** Everything that a group of settings says in one line, and its lists each in lines of their own. */
function lines(value: unknown, schema: z.ZodType, number = ''): string[] {
  const { shape = {} } = bareSchema(schema) as { shape?: Record<string, z.ZodType> };
  const own = partsOf(value as object, shape).flatMap(([each, part]) => settingWords(each, part) ?? []);
  const line = own.length > 0 ? [`${number && `Band ${number}: `}${own.join(', ')}`] : [];
  return [...line, ...words(value, schema, number)];
}

/** All settings of a stage in words and figures, as its panel shows them: its own in one line, and one line for each band. */
export function stageWords(stage: Stage): string[] {
  return lines(stage.settings, definitionOf<Stage>(stage).schema);
}
