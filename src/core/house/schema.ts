import { z } from 'zod';
import { controlPath } from '../lane/control-path';

export const MOST_HANDLES = 6;
export const MOST_MOVES = 12;
/** Where a handle leaves everything as it was saved, in percent. */
export const REST_PERCENT = 50;

const at = { stage: z.string().min(1).max(64), control: controlPath };

const moveSchema = z.strictObject({
  ...at,
  /** Values at 0, at 50 and at 100 % of the handle. */
  from: z.number(),
  rest: z.number(),
  to: z.number(),
});
/** A control that a handle moves. */
export type HandleMove = z.infer<typeof moveSchema>;

export const handleName = z
  .string()
  .trim()
  .min(1, 'Give the handle a name.')
  .max(20, 'The name of a handle can have up to 20 characters.');

const handleSchema = z.strictObject({
  name: handleName,
  percent: z.number().min(0).max(100).default(REST_PERCENT),
  moves: z.array(moveSchema).max(MOST_MOVES, `A handle moves at most ${MOST_MOVES} controls.`),
});
/** A named overall control of a lane. */
export type Handle = z.infer<typeof handleSchema>;

const scaleSchema = z.strictObject({
  ...at,
  /** Values at 0 and at 100 % of the amount. */
  neutral: z.number(),
  rest: z.number(),
});
/** A control that the overall amount moves. */
export type AmountScale = z.infer<typeof scaleSchema>;

/** Overall controls of a lane, and the house lane that it began from. */
export const houseSchema = z.strictObject({
  /** What it began from; empty for handles of its own. */
  name: z.string().trim().max(60).default(''),
  amountPercent: z.number().min(0).max(150).default(100),
  handles: z.array(handleSchema).max(MOST_HANDLES, `A lane has at most ${MOST_HANDLES} handles.`).default([]),
  scales: z.array(scaleSchema).max(120).default([]),
});
export type House = z.infer<typeof houseSchema>;
