import { z } from 'zod';

export const MAX_ALTERNATIVES = 4;
const LETTERS = 'ABCD';

export const alternativeName = z
  .string()
  .trim()
  .min(1, 'Give the alternative a name.')
  .max(16, 'The name of an alternative can have up to 16 characters.');

/** A set of settings of a stage. That which is heard has null here: its settings are the stage's own. */
export interface Alternative<Settings = unknown> {
  name: string;
  settings: Settings | null;
}

/** A stage, as far as its alternatives are concerned. */
export interface WithAlternatives<Settings = unknown> {
  settings: Settings;
  alternatives?: Alternative<Settings>[];
}

/** The schema of the alternatives of a stage, whose settings have a schema; there are none, or several. */
export function alternativesSchema<Schema extends z.ZodType>(settings: Schema) {
  return z
    .array(z.strictObject({ name: alternativeName, settings: settings.nullable() }))
    .min(2, 'A stage has either no alternatives or at least two.')
    .max(MAX_ALTERNATIVES, `A stage has at most ${MAX_ALTERNATIVES} alternatives.`)
    .refine(
      (list) => (list as Alternative[]).filter((each) => each.settings === null).length === 1,
      'One alternative of a stage is heard.',
    );
}

/** The alternatives of a stage, in order; one alone where it has none. */
export function alternativesOf({ alternatives }: WithAlternatives): Alternative[] {
  return alternatives ?? [{ name: LETTERS[0], settings: null }];
}

/** Place of the alternative that is heard. */
export function heardAlternative(stage: WithAlternatives): number {
  return alternativesOf(stage).findIndex(({ settings }) => settings === null);
}

/** The stage with another of its alternatives heard; unchanged where that is heard already or not there. */
export function withAlternativeHeard<Stage extends WithAlternatives>(stage: Stage, place: number): Stage {
  const chosen = alternativesOf(stage).at(place)?.settings;
  if (chosen == null) return stage;
  const heard = heardAlternative(stage);
  const alternatives = alternativesOf(stage).map((each, i) => {
    if (i === heard) return { ...each, settings: stage.settings };
    return i === place ? { ...each, settings: null } : each;
  });
  return { ...stage, settings: chosen, alternatives };
}

/** The stage with one more alternative, a copy of what is heard, and that heard; unchanged where there is no room. */
export function withAlternativeAdded<Stage extends WithAlternatives>(stage: Stage): Stage {
  const alternatives = alternativesOf(stage);
  if (alternatives.length >= MAX_ALTERNATIVES) return stage;
  const name = [...LETTERS].find((letter) => !alternatives.some((each) => each.name === letter)) ?? LETTERS[0];
  const added = { ...stage, alternatives: [...alternatives, { name, settings: structuredClone(stage.settings) }] };
  return withAlternativeHeard(added, alternatives.length);
}

/** The stage without one of its alternatives; where that is heard, the one before it is, or the one after. */
export function withAlternativeRemoved<Stage extends WithAlternatives>(stage: Stage, place: number): Stage {
  const left = place === heardAlternative(stage) ? withAlternativeHeard(stage, place === 0 ? 1 : place - 1) : stage;
  const remaining = alternativesOf(left).filter((_, i) => i !== place);
  const { alternatives: _, ...alone } = left;
  return remaining.length > 1 ? { ...left, alternatives: remaining } : (alone as Stage);
}

/** The stage with another name for one of its alternatives. */
export function withAlternativeNamed<Stage extends WithAlternatives>(stage: Stage, place: number, name: string): Stage {
  return { ...stage, alternatives: alternativesOf(stage).map((each, i) => (i === place ? { ...each, name } : each)) };
}

/** The stage with what is heard copied to another of its alternatives. */
export function withAlternativeCopied<Stage extends WithAlternatives>(stage: Stage, place: number): Stage {
  if (place === heardAlternative(stage)) return stage;
  const settings = structuredClone(stage.settings);
  return {
    ...stage,
    alternatives: alternativesOf(stage).map((each, i) => (i === place ? { ...each, settings } : each)),
  };
}

/** The stage with the settings of all its alternatives changed alike. */
export function withEverySettings<Stage extends WithAlternatives>(
  stage: Stage,
  change: (settings: Stage['settings']) => Stage['settings'],
): Stage {
  const { alternatives } = stage;
  return {
    ...stage,
    settings: change(stage.settings),
    ...(alternatives && {
      alternatives: alternatives.map((each) => ({ ...each, settings: each.settings && change(each.settings) })),
    }),
  };
}
