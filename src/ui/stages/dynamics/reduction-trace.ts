import type { Surface } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import type { Palette } from '../../theme/palette';

const LINES = [0, 1, 2, 3, 6, 9, 12, 18, 24];
/** Figures of the axis stand no closer. */
const LABEL_PIXELS = 12;
/** Values for which a peak is held in the picture. */
const HOLD = 45;

/** Where a gain reduction is drawn, in CSS pixels. */
export interface TraceArea {
  left: number;
  top: number;
  width: number;
  height: number;
  /** Values that fit into the width; fewer stand at its right end. */
  slots: number;
}

/** Each value, or for a while the highest before it. */
export function heldValues(values: readonly number[]): number[] {
  let held = 0;
  let age = 0;
  return values.map((value) => {
    if (value >= held || ++age > HOLD) {
      held = value;
      age = 0;
    }
    return held;
  });
}

/**
 * Gain reduction over time, hanging from the top: filled, with its peaks held as a dashed line, so that a fast release can
 * be read. Returns the deepest value.
 */
export function drawReduction(
  { context }: Surface,
  palette: Palette,
  area: TraceArea,
  values: readonly number[],
  labels = true,
): number {
  const most = values.reduce((a, b) => Math.max(a, b), 0);
  const scale = LINES.find((line) => line >= 3 && line >= most * 1.15) ?? Math.max(24, most);
  // Square root: the first decibels, which matter most, get the most room.
  const y = (db: number) => area.top + Math.sqrt(Math.min(1, db / scale)) * area.height;
  const x = (i: number) => area.left + ((area.slots - values.length + i) / area.slots) * area.width;
  context.font = `12px ${FIGURE_FACE}`;
  context.textAlign = 'left';
  let labelled = -Infinity;
  for (const line of LINES.filter((db) => db <= scale)) {
    context.fillStyle = palette.hairline;
    context.fillRect(area.left, y(line), area.width, 1);
    if (!labels || y(line) - labelled < LABEL_PIXELS) continue;
    labelled = y(line);
    context.fillStyle = palette.quiet;
    context.fillText(figure(-line, 0), area.left + area.width + 6, y(line) + 3.5);
  }
  if (values.length === 0) return 0;
  const trace = (of: readonly number[]) => of.forEach((value, i) => context.lineTo(x(i), y(value)));
  context.beginPath();
  context.moveTo(x(0), y(0));
  trace(values);
  context.lineTo(x(values.length - 1), y(0));
  context.closePath();
  context.globalAlpha = 0.16;
  context.fillStyle = palette.ink;
  context.fill();
  context.globalAlpha = 1;
  context.lineWidth = 1.4;
  context.strokeStyle = palette.ink;
  context.beginPath();
  trace(values);
  context.stroke();
  context.strokeStyle = palette.ochre;
  context.setLineDash([4, 3]);
  context.beginPath();
  trace(heldValues(values));
  context.stroke();
  context.setLineDash([]);
  return most;
}
