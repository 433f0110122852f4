import type { LiveReadings } from '../../../engine/live/protocol';
import { drawLevelAxis } from '../../kit/axes';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

const TOP_DB = 3;
const FLOOR_DB = -45;
const LINES = [0, -10, -20, -30, -40];
const LEFT = 16;
const RIGHT = 44;

type Level = Pick<LiveReadings['joints'][number], 'truePeakDbtp' | 'momentaryLufs'>;

/** Levels before and after a stage, the newest last, and how many of them fit. */
export interface LevelsPicture {
  into: readonly Level[];
  out: readonly Level[];
  slots: number;
}

/** Loudness (thick) and true peak (thin) into and out of a stage, on one scale. */
export function drawLevels(surface: Surface, { into, out, slots }: LevelsPicture, palette: Palette): void {
  const { context, width, height } = surface;
  const y = (db: number) =>
    8 + ((TOP_DB - Math.max(FLOOR_DB, Math.min(TOP_DB, db))) / (TOP_DB - FLOOR_DB)) * (height - 16);
  drawLevelAxis(surface, palette, LINES, y, { left: LEFT, right: width - RIGHT, figures: 'right' });
  if (into.length === 0) {
    context.fillStyle = palette.quiet;
    context.textAlign = 'center';
    context.fillText('Play to see the level in and out', width / 2, height / 2);
  }
  const plot = width - LEFT - RIGHT;
  const line = (levels: readonly number[], color: string, lineWidth: number, alpha: number) => {
    context.strokeStyle = color;
    context.globalAlpha = alpha;
    context.lineWidth = lineWidth;
    context.beginPath();
    levels.forEach((db, i) => context.lineTo(LEFT + ((slots - levels.length + i) / slots) * plot, y(db)));
    context.stroke();
    context.globalAlpha = 1;
  };
  for (const [levels, color] of [
    [into, palette.copper],
    [out, palette.patina],
  ] as const) {
    line(
      levels.map(({ truePeakDbtp }) => truePeakDbtp),
      color,
      1,
      0.45,
    );
    line(
      levels.map(({ momentaryLufs }) => momentaryLufs),
      color,
      2,
      1,
    );
  }
}
