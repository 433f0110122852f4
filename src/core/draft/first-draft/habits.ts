import { z } from 'zod';
import { DRAFT_STEP_IDS, draftWishesSchema, SCALED_STEPS, type DraftStepId, type DraftWishes } from './request';

/** What was done to a draft that was taken. */
export const takenDraftSchema = z.strictObject({
  schema: z.literal(1).default(1),
  wishes: draftWishesSchema,
  /** Steps that the draft had something to do for. */
  needed: z.array(z.enum(DRAFT_STEP_IDS)).max(DRAFT_STEP_IDS.length),
});
export type TakenDraft = z.infer<typeof takenDraftSchema>;

/** What is usually done to a step. */
export interface StepHabit {
  /** Drafts that had it, and those of them in which it was refused. */
  offered: number;
  refused: number;
  /** Middle of the strengths that it was taken at, in percent; null when it never was. */
  strengthPercent: number | null;
}
export type Habits = Partial<Record<DraftStepId, StepHabit>>;

const median = (values: number[]) => values.sort((a, b) => a - b)[Math.floor((values.length - 1) / 2)];

/** What an account usually does to its drafts, step by step. */
export function habitsOf(drafts: readonly TakenDraft[]): Habits {
  const habits: Habits = {};
  for (const id of DRAFT_STEP_IDS) {
    const choices = drafts.flatMap(({ needed, wishes }) => {
      if (!needed.includes(id)) return [];
      return [(Object.hasOwn(wishes.steps, id) && wishes.steps[id]) || { on: true, strengthPercent: 100 }];
    });
    if (choices.length === 0) continue;
    const taken = choices.filter(({ on }) => on);
    habits[id] = {
      offered: choices.length,
      refused: choices.length - taken.length,
      strengthPercent: taken.length > 0 ? median(taken.map(({ strengthPercent }) => strengthPercent)) : null,
    };
  }
  return habits;
}

/** Fewer drafts with a step say nothing about it. */
export const LEAST_OFFERED = 3;
/** A step that was refused in more than this share of them is refused from the start. */
const MOSTLY = 0.75;

/** Wishes that a draft starts from: steps as they are usually left, where that is known from several drafts. */
export function leaning(wishes: DraftWishes, habits: Habits): DraftWishes {
  const steps = { ...wishes.steps };
  for (const id of DRAFT_STEP_IDS) {
    const habit = habits[id];
    if (!habit || habit.offered < LEAST_OFFERED || Object.hasOwn(steps, id)) continue;
    const strengthPercent = SCALED_STEPS.has(id) ? (habit.strengthPercent ?? 100) : 100;
    const on = habit.refused <= MOSTLY * habit.offered;
    if (!on || strengthPercent !== 100) steps[id] = { on, strengthPercent };
  }
  return { ...wishes, steps };
}
