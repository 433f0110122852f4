import { FIGURE_FONT } from '../../kit/axes';
import { figure, hertz } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import { frequencyAt } from '../../stages/equalizer/equalizer-axes';
import type { Palette } from '../../theme/palette';

/** Columns of a line: fine enough for a picture of this size. */
export const SPECTRUM_COLUMNS = 240;
const [TOP_DB, FLOOR_DB] = [-12, -84];
const LEVELS = [-24, -48, -72];
const NAMED_HZ = [50, 200, 1000, 5000];
const FOOT = 16;

/** Draws the levels in dB of mid, filled, and side, as a line, over the octaves. */
export function drawSpectrum(
  { context, width, height }: Surface,
  mid: ArrayLike<number>,
  side: ArrayLike<number>,
  color: string,
  palette: Palette,
): void {
  const foot = height - FOOT;
  const y = (db: number) => ((TOP_DB - Math.min(TOP_DB, Math.max(FLOOR_DB, db))) / (TOP_DB - FLOOR_DB)) * foot;
  const x = (column: number) => (column / (SPECTRUM_COLUMNS - 1)) * width;
  context.font = FIGURE_FONT;
  context.textAlign = 'right';
  for (const db of LEVELS) {
    context.fillStyle = palette.hairline;
    context.fillRect(0, y(db), width, 1);
    context.fillStyle = palette.quiet;
    context.fillText(figure(db, 0), width, y(db) - 2);
  }
  context.beginPath();
  context.moveTo(0, foot);
  for (let i = 0; i < mid.length; i++) context.lineTo(x(i), y(mid[i]));
  context.lineTo(width, foot);
  context.fillStyle = color;
  context.globalAlpha = 0.45;
  context.fill();
  context.globalAlpha = 1;
  context.beginPath();
  for (let i = 0; i < side.length; i++) context.lineTo(x(i), y(side[i]));
  context.strokeStyle = palette.ink;
  context.lineWidth = 1.2;
  context.stroke();
  context.textAlign = 'center';
  context.fillStyle = palette.quiet;
  const [low, high] = [frequencyAt(0), frequencyAt(1)];
  for (const hz of NAMED_HZ)
    context.fillText(hertz(hz), (Math.log(hz / low) / Math.log(high / low)) * width, height - 3);
}
