import { controlQuantity, controlValue, heldTo, withControl } from '../lane/control-path';
import type { Lane, Stage } from '../lane/schema';
import { traitsOf } from '../stages/registry';
import { REST_PERCENT, type AmountScale, type Handle, type HandleMove, type House } from './schema';

/** The value that a handle gives a control; frequencies and times go in ratios. */
function valueAt({ from, rest, to }: HandleMove, percent: number, logarithmic: boolean): number {
  const [start, end, share] =
    percent < REST_PERCENT
      ? [from, rest, percent / REST_PERCENT]
      : [rest, to, (percent - REST_PERCENT) / (100 - REST_PERCENT)];
  if (logarithmic && start > 0 && end > 0) return start * (end / start) ** share;
  return start + share * (end - start);
}

/** Where handles and amount put a control; null where nothing moves it. */
function target(house: House, stage: Stage, control: string): number | null {
  const quantity = controlQuantity(stage, control);
  if (!quantity) return null;
  const moved = house.handles.flatMap(({ percent, moves }) =>
    moves.filter((move) => move.stage === stage.id && move.control === control).map((move) => ({ move, percent })),
  );
  const scale = house.scales.find((each) => each.stage === stage.id && each.control === control);
  if (moved.length === 0 && !scale) return null;
  // Handles that move the same control add up.
  const rest = moved[0]?.move.rest ?? scale!.rest;
  const value = moved.reduce(
    (sum, { move, percent }) => sum + valueAt(move, percent, quantity.scale === 'logarithmic') - move.rest,
    rest,
  );
  const amount = scale ? scale.neutral + (value - scale.neutral) * (house.amountPercent / 100) : value;
  return heldTo(quantity, amount);
}

/**
 * A lane with its handles and amount at other positions: each control that they move goes where they put it, with what was
 * changed by hand kept as a distance. Back at the same positions it is the same lane.
 */
export function withHouse(lane: Lane, house: House): Lane {
  const before = lane.house;
  const stages = lane.stages.map((stage) => {
    const controls = new Set(
      [...house.handles.flatMap(({ moves }) => moves), ...house.scales]
        .filter((each) => each.stage === stage.id)
        .map(({ control }) => control),
    );
    let moved = stage;
    for (const control of controls) {
      const next = target(house, stage, control);
      const now = controlValue(stage, control);
      if (next === null || now === null) continue;
      const expected = (before && target(before, stage, control)) ?? next;
      moved = withControl(moved, control, next + (now - expected));
    }
    return moved;
  });
  return { ...lane, stages, house };
}

/** A house with one handle at another position in percent. */
export function withHandleAt(house: House, index: number, percent: number): House {
  return { ...house, handles: house.handles.map((handle, i) => (i === index ? { ...handle, percent } : handle)) };
}

/** What the overall amount moves in a lane as it stands, as the kinds of its stages say. */
export function scalesOf({ stages }: Pick<Lane, 'stages'>): AmountScale[] {
  return stages.flatMap((stage) =>
    (traitsOf<Stage>(stage).scales?.(stage.settings) ?? []).flatMap(({ control, neutral }) => {
      const rest = controlValue(stage, control);
      return rest === null || rest === neutral ? [] : [{ stage: stage.id, control, neutral, rest }];
    }),
  );
}

/** How far from where it stands a control is moved by a new handle at first, as a share of its range. */
const FIRST_SHARE = 0.15;

/** A move of a control around where it stands; null where the stage has no such control. */
export function moveOf(stage: Stage, control: string): HandleMove | null {
  const quantity = controlQuantity(stage, control);
  const rest = controlValue(stage, control);
  if (!quantity || rest === null) return null;
  const { min, max, scale } = quantity;
  if (scale === 'logarithmic' && min > 0) {
    const ratio = (max / min) ** FIRST_SHARE;
    return { stage: stage.id, control, rest, from: heldTo(quantity, rest / ratio), to: heldTo(quantity, rest * ratio) };
  }
  const span = (max - min) * FIRST_SHARE;
  return { stage: stage.id, control, rest, from: heldTo(quantity, rest - span), to: heldTo(quantity, rest + span) };
}

/**
 * A lane as it is to be begun from, without the edges of its track: handles in the middle, the full amount, what is set now
 * as where they rest.
 */
export function atRest(lane: Lane, name: string): Lane {
  const handles = (lane.house?.handles ?? []).map((handle): Handle => ({
    name: handle.name,
    percent: REST_PERCENT,
    moves: handle.moves.flatMap((move) => {
      const stage = lane.stages.find(({ id }) => id === move.stage);
      const quantity = stage && controlQuantity(stage, move.control);
      const rest = stage && controlValue(stage, move.control);
      if (!quantity || rest === null || rest === undefined) return [];
      const shift = rest - move.rest;
      return [{ ...move, rest, from: heldTo(quantity, move.from + shift), to: heldTo(quantity, move.to + shift) }];
    }),
  }));
  const { edges: _, ...kept } = lane;
  return { ...kept, house: { name, amountPercent: 100, handles, scales: scalesOf(lane) } };
}
