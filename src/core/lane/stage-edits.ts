import type { z } from 'zod';
import { definitionOf, traitsOf } from '../stages/registry';
import { MAX_STAGES, type Lane, type Stage } from './schema';

/** Stages with others inserted at a place; null where that would be more than a lane takes. */
export function withStagesAt(stages: readonly Stage[], at: number, ...added: Stage[]): Stage[] | null {
  if (stages.length + added.length > MAX_STAGES) return null;
  return [...stages.slice(0, at), ...added, ...stages.slice(at)];
}

/** An id that no stage has yet: the wanted one, or with a number after it. */
export function freeId(stages: readonly Stage[], wanted: string): string {
  const taken = new Set(stages.map(({ id }) => id));
  let id = wanted;
  for (let number = 2; taken.has(id); number++) id = `${wanted}-${number}`;
  return id;
}

/** Stages with one changed. */
export function withStageChanged(stages: readonly Stage[], id: string, change: (stage: Stage) => Stage): Stage[] {
  return stages.map((stage) => (stage.id === id ? change(stage) : stage));
}

/** Stages with one moved to a place among the others; unchanged where it is not there. */
export function withStageMoved(stages: readonly Stage[], id: string, to: number): Stage[] {
  const rest = stages.filter((stage) => stage.id !== id);
  const moved = stages.filter((stage) => stage.id === id);
  return [...rest.slice(0, to), ...moved, ...rest.slice(to)];
}

/** The stage to open when one goes: the next, else the one before. */
export function neighbourOf(stages: readonly Stage[], id: string): Stage | undefined {
  const index = stages.findIndex((stage) => stage.id === id);
  return stages[index + 1] ?? stages[index - 1];
}

/** Where a stage from another lane goes: before a stage that belongs at the end, else last. */
export function placeFor(stages: readonly Stage[], stage: Stage): number {
  const last = stages.at(-1);
  const before = last !== undefined && traitsOf(last).endsLane && !traitsOf(stage).endsLane;
  return before ? stages.length - 1 : stages.length;
}

/** Where an equalizer of the whole goes: before the limiters that end the lane, so that it raises no peak after them. */
export function beforeLastLimiters(stages: readonly Stage[]): number {
  let at = stages.length;
  while (at > 0 && traitsOf(stages[at - 1]).endsLane) at--;
  return at;
}

/** The schema of one setting of a stage. */
export function settingSchema(stage: Stage, name: string): z.ZodType {
  const { shape } = definitionOf<Stage>(stage).schema as unknown as { shape: Record<string, z.ZodType> };
  return shape[name];
}

/** The value of a numeric setting of a stage. */
export function numberSetting({ settings }: Stage, name: string): number {
  return (settings as unknown as Record<string, number>)[name];
}

/** A stage with one setting changed. */
export function withSetting(stage: Stage, name: string, value: unknown): Stage {
  return { ...stage, settings: { ...stage.settings, [name]: value } } as Stage;
}

/** A lane with one setting of one stage changed. */
export function withLaneSetting(lane: Lane, id: string, name: string, value: unknown): Lane {
  return { ...lane, stages: withStageChanged(lane.stages, id, (stage) => withSetting(stage, name, value)) };
}
