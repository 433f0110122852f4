import type { Lane } from '../lane/schema';
import { moveOf, scalesOf } from './handles';
import { MOST_HANDLES, MOST_MOVES, REST_PERCENT, type Handle, type HandleMove, type House } from './schema';

/** The house of a lane; where it has none, one without handles whose amount moves what is there now. */
export function houseOf(lane: Lane): House {
  return lane.house ?? { name: '', amountPercent: 100, handles: [], scales: scalesOf(lane) };
}

function withHandles(lane: Lane, change: (handles: Handle[]) => Handle[]): Lane {
  const house = houseOf(lane);
  return { ...lane, house: { ...house, handles: change(house.handles) } };
}

const at = (index: number, change: (handle: Handle) => Handle) => (handles: Handle[]) =>
  handles.map((handle, i) => (i === index ? change(handle) : handle));

/** A lane with another handle that moves nothing yet; unchanged when it has as many as it can. */
export function withHandleAdded(lane: Lane): Lane {
  const { handles } = houseOf(lane);
  if (handles.length >= MOST_HANDLES) return lane;
  const name = `Handle ${handles.length + 1}`;
  return withHandles(lane, (all) => [...all, { name, percent: REST_PERCENT, moves: [] }]);
}

/** A lane without a handle; what it moved stays where it is. */
export function withHandleRemoved(lane: Lane, index: number): Lane {
  return withHandles(lane, (handles) => handles.filter((_, i) => i !== index));
}

/** A lane with a handle of another name. */
export function withHandleNamed(lane: Lane, index: number, name: string): Lane {
  return withHandles(
    lane,
    at(index, (handle) => ({ ...handle, name })),
  );
}

const same = (move: HandleMove, stage: string, control: string) => move.stage === stage && move.control === control;

/** A lane whose handle moves a control as well, around where it stands; unchanged where that can’t be. */
export function withMoveAdded(lane: Lane, index: number, stageId: string, control: string): Lane {
  const stage = lane.stages.find(({ id }) => id === stageId);
  const move = stage && moveOf(stage, control);
  if (!move || (houseOf(lane).handles[index]?.moves.length ?? MOST_MOVES) >= MOST_MOVES) return lane;
  return withHandles(
    lane,
    at(index, (handle) => ({
      ...handle,
      moves: [...handle.moves.filter((each) => !same(each, stageId, control)), move],
    })),
  );
}

/** A lane whose handle moves a control from and to other values. */
export function withMoveRange(
  lane: Lane,
  index: number,
  { stage, control }: Pick<HandleMove, 'stage' | 'control'>,
  range: Partial<Pick<HandleMove, 'from' | 'to'>>,
): Lane {
  return withHandles(
    lane,
    at(index, (handle) => ({
      ...handle,
      moves: handle.moves.map((move) => (same(move, stage, control) ? { ...move, ...range } : move)),
    })),
  );
}

/** A lane whose handle leaves a control alone. */
export function withMoveRemoved(lane: Lane, index: number, stage: string, control: string): Lane {
  return withHandles(
    lane,
    at(index, (handle) => ({ ...handle, moves: handle.moves.filter((move) => !same(move, stage, control)) })),
  );
}

/** A lane without overall controls; what they moved stays where it is. */
export function withoutHouse(lane: Lane): Lane {
  const { house: _, ...rest } = lane;
  return rest;
}
