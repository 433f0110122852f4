import { decibels } from '../../../core/signal/decibels';
import { FIGURE_FONT } from '../../kit/axes';
import { figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** A stretch of one channel: its samples, and the wave through them with some points for each of them. */
export interface DrawnWave {
  samples: Float32Array;
  wave: Float32Array;
  perFrame: number;
}

/** A level that is drawn as a line, above and below. */
export interface NamedLevel {
  name: string;
  /** dBFS */
  levelDb: number;
}

const [LEFT, RIGHT, MARGIN] = [8, 8, 10];
/** Below this share of full scale the picture is as high as what is in it. */
const NEAR_FULL_SCALE = 0.5;
/** Room above the highest point. */
const HEADROOM = 1.12;
/** Pixels between two samples from which each has a dot. */
const DOTTED = 4;
/** Pixels between two lines of the hatching. */
const HATCH = 5;

/** The amplitude at the upper edge of a picture of these waves: at least full scale when one comes near it. */
export function topOf(waves: readonly DrawnWave[]): number {
  const highest = Math.max(1e-6, ...waves.map(({ wave }) => wave.reduce((most, x) => Math.max(most, Math.abs(x)), 0)));
  return HEADROOM * (highest > NEAR_FULL_SCALE ? Math.max(1, highest) : highest);
}

/** Draws samples as dots and the wave through them, named levels as lines, and hatches what is over full scale. */
export function drawWave(
  { context, width, height }: Surface,
  { samples, wave, perFrame }: DrawnWave,
  { top, levels, color, title }: { top: number; levels: readonly NamedLevel[]; color: string; title: string },
  palette: Palette,
): void {
  const step = (width - LEFT - RIGHT) / Math.max(1, samples.length - 1);
  const x = (frame: number) => LEFT + frame * step;
  const y = (value: number) => height / 2 - (value / top) * (height / 2 - MARGIN);
  context.fillStyle = palette.hairline;
  context.fillRect(LEFT, y(0), width - LEFT - RIGHT, 1);
  context.font = FIGURE_FONT;
  context.textAlign = 'right';
  for (const { name, levelDb } of levels) {
    const value = 10 ** (levelDb / 20);
    if (value > top) continue;
    context.fillStyle = levelDb === 0 ? palette.brick : palette.quiet;
    for (const sign of [1, -1]) context.fillRect(LEFT, y(sign * value), width - LEFT - RIGHT, 1);
    context.fillText(`${name} ${figure(levelDb)} dBFS`, width - RIGHT, y(value) + (levelDb === 0 ? -3 : 12));
  }
  hatchOvers({ context, width, height }, wave, (i) => x(i / perFrame), y, palette.brick);
  context.beginPath();
  wave.forEach((value, i) => context.lineTo(x(i / perFrame), y(value)));
  context.strokeStyle = color;
  context.lineWidth = 1.6;
  context.stroke();
  if (step >= DOTTED) {
    context.fillStyle = palette.ink;
    samples.forEach((value, i) => context.fillRect(x(i) - 2, y(value) - 2, 4, 4));
  }
  context.textAlign = 'left';
  context.fillStyle = palette.ink;
  const highest = decibels(wave.reduce((most, value) => Math.max(most, Math.abs(value)), 0));
  context.fillText(`${title}, highest here ${figure(highest, 2)} dBTP`, LEFT, 12);
}

/** Upright lines from full scale to the wave where it is over. */
function hatchOvers(
  { context }: Surface,
  wave: Float32Array,
  x: (point: number) => number,
  y: (value: number) => number,
  color: string,
): void {
  context.fillStyle = color;
  let last = -Infinity;
  wave.forEach((value, i) => {
    if (Math.abs(value) <= 1 || x(i) - last < HATCH) return;
    last = x(i);
    const [from, to] = [y(Math.sign(value)), y(value)];
    context.fillRect(last, Math.min(from, to), 1, Math.abs(to - from));
  });
}
