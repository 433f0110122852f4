import type { StageDefinition, StageTraits } from './definition';
import * as KINDS from './kinds';

type Kinds = typeof KINDS;

export type StageKind = keyof Kinds;

/** Settings of each kind of stage. */
export type StageSettings = {
  [Kind in StageKind]: Kinds[Kind] extends StageDefinition<infer Settings> ? Settings : never;
};

/** Every kind of stage by its name in saved lanes. */
export const STAGES: { readonly [Kind in StageKind]: StageDefinition<StageSettings[Kind]> } = KINDS;

/** In the order in which engineers commonly use them. */
export const STAGE_KINDS = (Object.keys(KINDS) as StageKind[]).sort((a, b) => STAGES[a].order - STAGES[b].order);

/** A stage of any kind, its settings in step with its kind. */
interface AnyStage {
  kind: StageKind;
  settings: unknown;
}

/** The definition of a stage's kind, for its own settings. */
export function definitionOf<Stage extends AnyStage>({
  kind,
}: Pick<Stage, 'kind'>): StageDefinition<Stage['settings']> {
  return STAGES[kind] as never;
}

/** What a stage's kind says of itself. */
export function traitsOf<Stage extends AnyStage>(stage: Pick<Stage, 'kind'>): StageTraits<Stage['settings']> {
  return definitionOf<Stage>(stage).traits;
}
