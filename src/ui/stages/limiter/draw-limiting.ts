import { drawLevelAxis, FIGURE_FONT } from '../../kit/axes';
import { figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** What a limiter did over a stretch of time, in values that follow each other evenly. */
export interface LimitingPicture {
  /** Peaks in dBFS that met the ceiling, and that came out below it. */
  into: ArrayLike<number>;
  out: ArrayLike<number>;
  /** Gain reductions in dB. */
  reductions: ArrayLike<number>;
  /** Values that fit into the width; fewer stand at its right end. */
  slots: number;
  ceilingDb: number;
  /** Which stretch it is, in words. */
  when: string;
  /** What is said where there are no values. */
  empty: string;
}

/** dB below the ceiling at which the picture ends. */
const DEPTH_DB = 24;
const REDUCTIONS_DB = [3, 6, 12, 24, 48];
/** Classes of the histogram. A value counts from the smallest reduction that is one. */
const CLASSES = 6;
const LEAST_DB = 0.1;
/** Pixels for the figures of the axes, and for the histogram. */
const FIGURES = 40;
const HISTOGRAM = 104;
const GAP = 18;

/** The highest value of each column of pixels; null where there is none. */
export function columnsOf(values: ArrayLike<number>, slots: number, width: number): (number | null)[] {
  const first = slots - values.length;
  return Array.from({ length: width }, (_, x) => {
    const from = Math.max(0, Math.floor((x / width) * slots) - first);
    const to = Math.min(values.length, Math.max(from + 1, Math.floor(((x + 1) / width) * slots) - first));
    if (((x + 1) / width) * slots <= first || from >= values.length) return null;
    let most = values[from];
    for (let i = from + 1; i < to; i++) most = Math.max(most, values[i]);
    return most;
  });
}

/** Share of the values in each class between 0 and `most`, in percent of all. */
export function reductionShares(reductions: ArrayLike<number>, most: number): number[] {
  const counts = new Array<number>(CLASSES).fill(0);
  for (let i = 0; i < reductions.length; i++)
    if (reductions[i] >= LEAST_DB) counts[Math.min(CLASSES - 1, Math.floor((reductions[i] / most) * CLASSES))]++;
  return counts.map((count) => (100 * count) / Math.max(1, reductions.length));
}

/**
 * The peaks of a stretch against the ceiling, with what was taken from them in copper above it; below, the gain reduction
 * as a line with an axis of its own; and beside that how much was taken how often.
 */
export function drawLimiting(surface: Surface, picture: LimitingPicture, palette: Palette): void {
  const { context, width, height } = surface;
  const { into, out, reductions, slots, ceilingDb, when, empty } = picture;
  const plot = Math.round(width - 8 - FIGURES - HISTOGRAM - GAP);
  context.font = FIGURE_FONT;
  if (into.length === 0) {
    context.textAlign = 'center';
    context.fillStyle = palette.quiet;
    context.fillText(empty, width / 2, height / 2);
    return;
  }
  const peaks = columnsOf(into, slots, plot);
  const left = columnsOf(out, slots, plot);
  const taken = columnsOf(reductions, slots, plot);

  // The peaks.
  const top = 8;
  const foot = Math.round(height * 0.58);
  const highest = Math.max(ceilingDb + 3, ...peaks.map((db) => db ?? -Infinity)) + 0.5;
  const lowest = ceilingDb - DEPTH_DB;
  const y = (db: number) =>
    top + ((highest - Math.max(lowest, Math.min(highest, db))) / (highest - lowest)) * (foot - top);
  const lines = [0, -6, -12, -18, -24].filter((db) => db < highest && db > lowest);
  drawLevelAxis(surface, palette, lines, y, { left: 8, right: 8 + plot, figures: 'right' });
  const area = (columns: (number | null)[], color: string, alpha: number) => {
    context.beginPath();
    columns.forEach((db, x) => {
      if (db !== null) context.lineTo(8 + x, y(db));
    });
    context.lineTo(8 + plot, foot);
    context.lineTo(8 + columns.findIndex((db) => db !== null), foot);
    context.closePath();
    context.fillStyle = color;
    context.globalAlpha = alpha;
    context.fill();
    context.globalAlpha = 1;
  };
  area(peaks, palette.copper, 0.9);
  area(left, palette.raised, 1);
  area(left, palette.patina, 0.55);
  context.fillStyle = palette.ink;
  context.fillRect(8, y(ceilingDb) - 0.5, plot, 1);
  context.textAlign = 'left';
  const beside = 8 + plot + GAP + FIGURES;
  context.fillText('ceiling', beside, Math.max(12, y(ceilingDb) - 3));
  context.fillText(`${figure(ceilingDb)} dBTP`, beside, Math.max(26, y(ceilingDb) + 11));

  // The gain reduction.
  const start = foot + 16;
  const end = height - 20;
  let most = 0;
  for (let i = 0; i < reductions.length; i++) most = Math.max(most, reductions[i]);
  const scale = REDUCTIONS_DB.find((db) => db >= most * 1.05) ?? most;
  const below = (db: number) => start + (db / scale) * (end - start);
  drawLevelAxis(surface, palette, [0, scale / 2, scale], below, {
    left: 8,
    right: 8 + plot,
    figures: 'right',
    text: (db) => figure(-db, scale < 6 ? 1 : 0),
  });
  context.strokeStyle = palette.ink;
  context.lineWidth = 1.3;
  context.beginPath();
  taken.forEach((db, x) => {
    if (db !== null) context.lineTo(8 + x, below(db));
  });
  context.stroke();

  // How much how often.
  const shares = reductionShares(reductions, scale);
  const widest = Math.max(...shares);
  const row = (end - start) / CLASSES;
  shares.forEach((share, i) => {
    if (share === 0) return;
    const length = Math.max(1, (share / widest) * (HISTOGRAM - GAP - 44));
    context.fillStyle = palette.copper;
    context.fillRect(beside, start + i * row + 1, length, row - 2);
    context.fillStyle = palette.quiet;
    context.fillText(`${figure(share, share < 10 ? 1 : 0)} %`, beside + length + 4, start + (i + 0.5) * row + 4);
  });
  context.fillStyle = palette.quiet;
  const working = shares.reduce((sum, share) => sum + share, 0);
  context.fillText(
    most >= LEAST_DB
      ? `${when}: at most ${figure(-most)} dB, limits ${figure(working, working < 10 ? 1 : 0)} % of the time`
      : `${when}: no peak reaches the ceiling`,
    8,
    height - 5,
  );
}
