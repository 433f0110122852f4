import type { z } from 'zod';
import { definitionOf } from '../stages/registry';
import { bareSchema, described, type Quantity } from '../stages/setting';
import { amountWords } from './amount-words';
import { sameData } from './same-data';
import type { Lane, Stage } from './schema';

/** More values than this are no sentence any more. */
const MOST_VALUES = 3;

interface Change {
  before: unknown;
  after: unknown;
  schema: z.ZodType;
}

/** Single values that differ; null when what differs is not made of such. */
function changesOf(before: unknown, after: unknown, schema: z.ZodType): Change[] | null {
  if (sameData(before, after)) return [];
  const { shape, element } = bareSchema(schema) as { shape?: Record<string, z.ZodType>; element?: z.ZodType };
  if (typeof before !== 'object' || typeof after !== 'object' || !before || !after) {
    const { quantity, choice } = described(schema);
    return quantity || choice ? [{ before, after, schema }] : null;
  }
  const lists = Array.isArray(before) && Array.isArray(after);
  if (lists && before.length !== after.length) return null;
  const found: Change[] = [];
  for (const key of Object.keys(after)) {
    const part = lists ? element : shape && Object.hasOwn(shape, key) ? shape[key] : undefined;
    const [old, now] = [before, after].map((each) => (each as Record<string, unknown>)[key]);
    const changes = sameData(old, now) ? [] : part ? changesOf(old, now, part) : null;
    if (!changes) return null;
    found.push(...changes);
  }
  return found;
}

function wordsOf({ before, after, schema }: Change): string | null {
  const { quantity, choice } = described(schema);
  if (quantity && typeof before === 'number' && typeof after === 'number') return amountWords(quantity, before, after);
  const title = (value: unknown) => choice?.options.find((option) => option.value === value)?.title;
  return choice ? `${title(before) ?? String(before)} → ${title(after) ?? String(after)}` : null;
}

const CROSSOVER: Pick<Quantity, 'unit' | 'step'> = { unit: 'Hz', step: 1 };

/** The values that one crossover, or one stage with the same stages around it, was moved between. */
function valuesOf(before: Lane, after: Lane): (string | null)[] | null {
  if (before.stages.length !== after.stages.length || !sameData(before.edges, after.edges)) return null;
  const moved = after.stages.flatMap((stage, i) =>
    sameData(stage, before.stages[i]) ? [] : [[before.stages[i], stage]],
  );
  const [was, is] = [before.crossovers, after.crossovers];
  if (was.phase !== is.phase || was.frequenciesHz.length !== is.frequenciesHz.length) return null;
  const crossovers = is.frequenciesHz.flatMap((hertz, i) =>
    hertz === was.frequenciesHz[i] ? [] : [[was.frequenciesHz[i], hertz]],
  );
  if (moved.length + crossovers.length !== 1) return null;
  if (crossovers.length === 1) return crossovers.map(([from, to]) => amountWords(CROSSOVER, from, to));
  const [[old, now]] = moved;
  const { settings: from, ...oldRest } = old;
  const { settings: to, ...nowRest } = now;
  if (!sameData(oldRest, nowRest)) return null;
  return changesOf(from, to, definitionOf<Stage>(now).schema)?.map(wordsOf) ?? null;
}

/** A step of the history in words: its label, and the values where a few were moved: “Band 4: 4.5 → 5.7 kHz”. */
export function changeWords(label: string, before: Lane, after: Lane): string {
  const values = valuesOf(before, after);
  if (!values || values.length === 0 || values.length > MOST_VALUES || values.includes(null)) return label;
  return `${label}: ${values.join(', ')}`;
}
