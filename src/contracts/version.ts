import { z } from 'zod';
import { laneSchema } from '../core/lane/schema';
import { masterSummarySchema } from '../core/measure/master-summary';

/** Longest name of a step, in characters. */
export const MAX_LABEL = 80;

export const saveLaneSchema = z.strictObject({
  lane: laneSchema,
  /** What was done, for the undo button. */
  label: z.string().trim().min(1).max(MAX_LABEL),
  /** The step this change was made on. */
  after: z.number().int().min(0),
  /** Whether it belongs to that step, as a makeup that was measured after it does, and is no step of its own. */
  amends: z.boolean().default(false),
});

/** Undo and redo go from a step, which another window may have left meanwhile. */
export const goSchema = z.strictObject({ after: z.number().int().min(0) });

/** A remembered position of a control: which stage, which of its controls, and the value there. */
export const pinSchema = z.strictObject({
  stage: z.string().min(1).max(64),
  control: z.string().min(1).max(64),
  value: z.number(),
});

export const savePinsSchema = z.strictObject({
  pins: z.array(pinSchema).max(500, 'A version has at most 500 pins. Remove some.'),
});

export type Pin = z.infer<typeof pinSchema>;

export const newVersionSchema = z.strictObject({
  name: z.string().trim().min(1, 'Give the version a name.').max(60, 'The name can have up to 60 characters.'),
});

/** A new version begins with the lane as it stands, or as it was after a step. */
export const copyVersionSchema = newVersionSchema.extend({ step: z.number().int().min(0).optional() });

export type SaveLane = z.infer<typeof saveLaneSchema>;

/** A version's lane at its current step, and what undo and redo would do. */
export const versionStateSchema = z.object({
  id: z.string(),
  name: z.string(),
  step: z.number(),
  lane: laneSchema,
  undo: z.string().nullable(),
  redo: z.string().nullable(),
  pins: z.array(pinSchema),
  createdAt: z.string(),
});
export type VersionState = z.infer<typeof versionStateSchema>;

/** What the master was after a step: LUFS, dBTP, and LU between them. */
export const stepFiguresSchema = masterSummarySchema.pick({ integratedLufs: true, truePeakDbtp: true, plrLu: true });

/** The steps of a version's history, the newest first; figures are null where the step was not measured with this mix. */
export const stepsSchema = z.array(
  z.object({ step: z.number(), label: z.string(), at: z.string(), figures: stepFiguresSchema.nullable() }),
);
export type Steps = z.infer<typeof stepsSchema>;
