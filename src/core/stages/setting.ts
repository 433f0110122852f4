import { z } from 'zod';

/** What the interface and the documentation need to know about a numeric setting. */
export interface Quantity {
  title: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  default: number;
  /** Sliders for frequencies and times move in ratios, not in differences. */
  scale?: 'linear' | 'logarithmic';
  help: string;
}

/** Schema of a numeric setting that carries its own unit, range, step, default and help. */
export function quantity(description: Quantity): z.ZodDefault<z.ZodNumber> {
  const { min, max, title, unit } = description;
  const limit = (value: number) => `${value}${unit && ` ${unit}`}.`;
  return z
    .number(`${title} must be a number.`)
    .min(min, `${title} must be at least ${limit(min)}`)
    .max(max, `${title} must be at most ${limit(max)}`)
    .default(description.default)
    .meta({ quantity: description });
}

/** One value of a setting with a few values to choose from. */
export interface Option<Value> {
  value: Value;
  title: string;
  /** What it is good for and what it costs; left out where the title says it all. */
  help?: string;
}

/** A setting with a few values to choose from. */
export interface Choice<Value extends string | number = string | number> {
  title: string;
  help: string;
  options: readonly Option<Value>[];
  default: Value;
}

/** Schema of a setting with a few values, each with its title and help. */
export function choice<const Value extends string | number>(
  description: Choice<Value>,
): z.ZodDefault<z.ZodLiteral<Value>> {
  const { options, title } = description;
  const values = options.map(({ value }) => value);
  const schema = z.literal(values, `${title} must be one of ${values.join(', ')}.`);
  return schema.default(description.default as never).meta({ choice: description });
}

/** A setting that is on or off. */
export interface Toggle {
  title: string;
  help: string;
  default: boolean;
}

/** Schema of a setting that is on or off. */
export function toggle(description: Toggle): z.ZodDefault<z.ZodBoolean> {
  const { title } = description;
  return z.boolean(`${title} must be on or off.`).default(description.default).meta({ toggle: description });
}

/** What a setting's schema says about it; all three are missing for a list or a group. */
export interface Described {
  quantity?: Quantity;
  choice?: Choice;
  toggle?: Toggle;
}

/** The description that {@link quantity}, {@link choice} or {@link toggle} was given. */
export function described(schema: z.ZodType): Described {
  return (schema.meta() ?? {}) as Described;
}

/** The description given to {@link quantity}; throws when the schema was not made by it. */
export function describe(schema: z.ZodType): Quantity {
  const { quantity: found } = described(schema);
  if (!found) throw new Error('This setting is not a number with a range.');
  return found;
}

/** The description given to {@link choice}; throws when the schema was not made by it. */
export function describeChoice<Value extends string | number>(schema: z.ZodType<Value>): Choice<Value> {
  const { choice: found } = described(schema);
  if (!found) throw new Error('This setting is not a choice.');
  return found as unknown as Choice<Value>;
}

/** The description given to {@link toggle}; throws when the schema was not made by it. */
export function describeToggle(schema: z.ZodType): Toggle {
  const { toggle: found } = described(schema);
  if (!found) throw new Error('This setting is not on or off.');
  return found;
}

/** What is inside of a schema that only adds a default or allows nothing. */
export function bareSchema(schema: z.ZodType): z.ZodType {
  const { innerType } = schema.def as { innerType?: z.ZodType };
  return innerType ? bareSchema(innerType) : schema;
}
