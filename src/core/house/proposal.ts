import type { Lane } from '../lane/schema';
import { figure } from '../measure/figure';
import { withHouse } from './handles';
import { REST_PERCENT } from './schema';
import { withUsualHandles } from './usual-handles';

/** Where somebody put handles of a lane; those that are not named stay. */
export interface HandlePositions {
  /** In percent, by the names of the handles. */
  handles: Readonly<Record<string, number>>;
  /** The overall amount; 100 is as it was saved. Left out, it stays. */
  amountPercent?: number;
}

/** One handle that was moved, in percent. */
export interface HandleChange {
  name: string;
  from: number;
  to: number;
}

/** Where all handles of a lane stand; those it would get where it has none. */
export function positionsOf(lane: Lane): Required<HandlePositions> {
  const { house } = withUsualHandles(lane);
  return {
    handles: Object.fromEntries(house.handles.map(({ name, percent }) => [name, percent])),
    amountPercent: house.amountPercent,
  };
}

/** A lane with its handles at other positions; null where it has no handle of one of the names. */
export function withPositions(lane: Lane, { handles, amountPercent }: HandlePositions): Lane | null {
  const based = withUsualHandles(lane);
  const known = based.house.handles.map(({ name }) => name);
  if (!Object.keys(handles).every((name) => known.includes(name))) return null;
  const moved = based.house.handles.map((handle) =>
    Object.hasOwn(handles, handle.name) ? { ...handle, percent: handles[handle.name] } : handle,
  );
  return withHouse(based, {
    ...based.house,
    handles: moved,
    amountPercent: amountPercent ?? based.house.amountPercent,
  });
}

/** The positions that differ from those of a lane: what is left alone says nothing about a lane that is changed meanwhile. */
export function movedPositions(lane: Lane, { handles, amountPercent }: HandlePositions): HandlePositions {
  const before = positionsOf(lane);
  const moved = Object.entries(handles).filter(
    ([name, percent]) => !Object.hasOwn(before.handles, name) || before.handles[name] !== percent,
  );
  return {
    handles: Object.fromEntries(moved),
    ...(amountPercent !== before.amountPercent && { amountPercent }),
  };
}

/** What positions change of those of a lane. */
export function changesOf(lane: Lane, positions: HandlePositions): HandleChange[] {
  const before = positionsOf(lane);
  const { handles, amountPercent } = movedPositions(lane, positions);
  const changes = Object.entries(handles).map(([name, to]) => ({
    ...{ name, to },
    from: Object.hasOwn(before.handles, name) ? before.handles[name] : REST_PERCENT,
  }));
  if (amountPercent !== undefined) changes.push({ name: 'Amount', from: before.amountPercent, to: amountPercent });
  return changes;
}

/**
 * Changes in words.
 *
 * @example
 * changeWords([{ name: 'Weight', from: 50, to: 62 }]) // 'Weight 50 → 62'
 */
export function changeWords(changes: readonly HandleChange[]): string {
  return changes.map(({ name, from, to }) => `${name} ${figure(from, 0)} → ${figure(to, 0)}`).join(', ');
}
