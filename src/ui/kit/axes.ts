import { figure, hertz } from './format';
import type { Palette } from '../theme/palette';
import { FIGURE_FACE } from '../theme/theme';
import type { Surface } from './use-canvas';

/** Face and size of the figures in pictures. */
export const FIGURE_FONT = `12px ${FIGURE_FACE}`;

/** Frequencies in Hz that an axis over the octaves names. */
const NAMED_HZ = [20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000];
/** Pixels from the foot of a figure to the middle of its line. */
const MIDDLE = 3.5;

/** From `left` to `right` in pixels, and on which side the figures stand. */
export interface LevelAxis {
  left: number;
  right: number;
  figures: 'left' | 'right';
  /** Pixels between line and figure; left out: 6. */
  gap?: number;
  /** What is written; left out: the level without decimals. */
  text?: (level: number) => string;
}

/** A line across a picture at each level, with its figure. */
export function drawLevelAxis(
  { context }: Surface,
  palette: Palette,
  levels: readonly number[],
  y: (level: number) => number,
  { left, right, figures, gap = 6, text = (level) => figure(level, 0) }: LevelAxis,
): void {
  context.font = FIGURE_FONT;
  context.textAlign = figures === 'left' ? 'right' : 'left';
  for (const level of levels) {
    context.fillStyle = palette.hairline;
    context.fillRect(left, y(level), right - left, 1);
    context.fillStyle = palette.quiet;
    context.fillText(text(level), figures === 'left' ? left - gap : right + gap, y(level) + MIDDLE);
  }
}

/** A line down a picture at each frequency named between two others, from `top` to `bottom`, with its figure at the foot. */
export function drawFrequencyAxis(
  { context, width, height }: Surface,
  palette: Palette,
  x: (frequencyHz: number) => number,
  { top, bottom, lowestHz = 20 }: { top: number; bottom: number; lowestHz?: number },
): void {
  context.font = FIGURE_FONT;
  context.textAlign = 'center';
  for (const frequencyHz of NAMED_HZ.filter((hz) => hz >= lowestHz)) {
    context.fillStyle = palette.hairline;
    context.fillRect(x(frequencyHz), top, 1, bottom - top);
    context.fillStyle = palette.quiet;
    context.fillText(hertz(frequencyHz), Math.min(width - 16, x(frequencyHz)), height - 5);
  }
}
