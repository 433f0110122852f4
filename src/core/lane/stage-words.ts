import type { z } from 'zod';
import { definitionOf } from '../stages/registry';
import { bareSchema, described } from '../stages/setting';
import { amountWords } from './amount-words';
import type { Stage } from './schema';

/** A value as its control shows it, with its title; null for what is no setting of its own. */
function settingWords(value: unknown, schema: z.ZodType): string | null {
  const { quantity, choice, toggle } = described(schema);
  if (quantity && typeof value === 'number') return `${quantity.title} ${amountWords(quantity, value)}`;
  if (choice) {
    const option = choice.options.find((each) => each.value === value);
    return `${choice.title} ${option?.title ?? String(value)}`;
  }
  return toggle ? `${toggle.title} ${value === true ? 'on' : 'off'}` : null;
}

function words(value: unknown, schema: z.ZodType, number: string): string[] {
  if (typeof value !== 'object' || value === null) return [];
  const { shape = {}, element } = bareSchema(schema) as { shape?: Record<string, z.ZodType>; element?: z.ZodType };
  if (Array.isArray(value)) return element ? value.flatMap((each, i) => lines(each, element, `${number}${i + 1}`)) : [];
  const nested = Object.entries(value).filter(([, each]) => typeof each === 'object');
  return nested.flatMap(([key, each]) => (Object.hasOwn(shape, key) ? words(each, shape[key], number) : []));
}

/** Everything that a group of settings says in one line, and its lists each in lines of their own. */
function lines(value: unknown, schema: z.ZodType, number = ''): string[] {
  const { shape = {} } = bareSchema(schema) as { shape?: Record<string, z.ZodType> };
  const own = Object.entries(value as Record<string, unknown>).flatMap(([key, each]) => {
    const said = Object.hasOwn(shape, key) ? settingWords(each, shape[key]) : null;
    return said ?? [];
  });
  const line = own.length > 0 ? [`${number && `Band ${number}: `}${own.join(', ')}`] : [];
  return [...line, ...words(value, schema, number)];
}

/** All settings of a stage in words and figures, as its panel shows them: its own in one line, and one line for each band. */
export function stageWords(stage: Stage): string[] {
  return lines(stage.settings, definitionOf<Stage>(stage).schema);
}
