import { z } from 'zod';
import { definitionOf } from '../stages/registry';
import { described, type Quantity } from '../stages/setting';
import type { Stage } from './schema';

/** A numeric setting of a stage by its path, such as “ceilingDbtp” or “bands.2.gainDb”. */
export const controlPath = z
  .string()
  .max(80)
  .regex(/^[A-Za-z0-9]+(\.[A-Za-z0-9]+){0,4}$/, 'A control is named by words and numbers with dots between them.');

/** What a schema describes, whatever defaults and nulls are around it. */
function inner(schema: z.ZodType): z.ZodType {
  let each: z.ZodType = schema;
  while (each instanceof z.ZodDefault || each instanceof z.ZodNullable || each instanceof z.ZodPrefault)
    each = each.unwrap() as z.ZodType;
  return each;
}

/** The range and unit of a control; null where the path names no numeric setting. */
export function controlQuantity(stage: Stage, path: string): Quantity | null {
  let schema: z.ZodType = definitionOf<Stage>(stage).schema;
  for (const part of path.split('.')) {
    const whole = inner(schema);
    if (whole instanceof z.ZodArray) schema = whole.element as z.ZodType;
    else if (whole instanceof z.ZodObject && Object.hasOwn(whole.shape, part))
      schema = (whole.shape as Record<string, z.ZodType>)[part];
    else return null;
  }
  return described(schema).quantity ?? null;
}

/** The value of a control; null where there is none. */
export function controlValue({ settings }: Stage, path: string): number | null {
  let value: unknown = settings;
  for (const part of path.split('.')) {
    if (typeof value !== 'object' || value === null || !Object.hasOwn(value, part)) return null;
    value = (value as Record<string, unknown>)[part];
  }
  return typeof value === 'number' ? value : null;
}

function replaced(data: unknown, [part, ...rest]: string[], value: number): unknown {
  if (part === undefined) return value;
  const within = (data as Record<string, unknown>)[part];
  if (Array.isArray(data))
    return data.map((each: unknown, i) => (i === Number(part) ? replaced(each, rest, value) : each));
  return { ...(data as object), [part]: replaced(within, rest, value) };
}

/** A value as a control can have it: within its range, at its step. */
export function heldTo({ min, max, step }: Quantity, value: number): number {
  const decimals = Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));
  return Math.max(min, Math.min(max, Number(value.toFixed(decimals))));
}

/** The stage with a control at a value, held to its range; unchanged where it has no such control. */
export function withControl(stage: Stage, path: string, value: number): Stage {
  const quantity = controlQuantity(stage, path);
  const before = controlValue(stage, path);
  if (!quantity || before === null) return stage;
  const held = heldTo(quantity, value);
  if (held === before) return stage;
  return { ...stage, settings: replaced(stage.settings, path.split('.'), held) } as Stage;
}
