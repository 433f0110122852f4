import { FIGURE_FONT } from '../../kit/axes';
import { figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

const FLOOR_DB = -60;
const LINES = [-48, -36, -24, -12, 0];
const LEFT = 34;
const BOTTOM = 20;

/** A static curve; levels in dBFS. */
export interface TransferCurvePicture {
  output: (levelDbfs: number) => number;
  thresholds: readonly number[];
  /** Levels in and out now; null at rest. */
  now: { into: number; out: number } | null;
}

/** Level out against level in, with where the track is now. */
export function drawTransferCurve(
  { context, width, height }: Surface,
  { output, thresholds, now }: TransferCurvePicture,
  palette: Palette,
): void {
  const side = Math.min(width - LEFT - 10, height - BOTTOM - 8);
  const x = (db: number) => LEFT + ((Math.max(FLOOR_DB, Math.min(0, db)) - FLOOR_DB) / -FLOOR_DB) * side;
  const y = (db: number) => 8 + (Math.max(FLOOR_DB, Math.min(6, db)) / FLOOR_DB) * side;
  context.font = FIGURE_FONT;
  for (const db of LINES) {
    context.fillStyle = palette.hairline;
    context.fillRect(LEFT, y(db), side, 1);
    context.fillRect(x(db), 8, 1, side);
    context.fillStyle = palette.quiet;
    context.textAlign = 'right';
    context.fillText(figure(db, 0), LEFT - 6, y(db) + 3.5);
    context.textAlign = 'center';
    if (db % 24 === 0) context.fillText(figure(db, 0), x(db), 8 + side + 14);
  }
  context.save();
  context.beginPath();
  context.rect(LEFT, 4, side, side + 4);
  context.clip();
  context.strokeStyle = palette.hairline;
  context.setLineDash([3, 3]);
  context.beginPath();
  context.moveTo(x(FLOOR_DB), y(FLOOR_DB));
  context.lineTo(x(0), y(0));
  context.stroke();
  context.setLineDash([1.5, 3]);
  context.strokeStyle = palette.quiet;
  for (const threshold of thresholds) {
    context.beginPath();
    context.moveTo(x(threshold), 8);
    context.lineTo(x(threshold), 8 + side);
    context.stroke();
  }
  context.setLineDash([]);
  context.strokeStyle = palette.ink;
  context.lineWidth = 2.2;
  context.beginPath();
  for (let db = FLOOR_DB; db <= 0; db += 0.5) context.lineTo(x(db), y(output(db)));
  context.stroke();
  context.restore();
  if (now && now.into > FLOOR_DB) {
    context.fillStyle = palette.copper;
    context.fillRect(x(now.into) - 1, y(now.out), 2, 8 + side - y(now.out));
    context.fillStyle = palette.patina;
    context.fillRect(LEFT, y(now.out) - 1, x(now.into) - LEFT, 2);
    context.beginPath();
    context.arc(x(now.into), y(now.out), 4.5, 0, 2 * Math.PI);
    context.fillStyle = palette.ink;
    context.fill();
  }
}
