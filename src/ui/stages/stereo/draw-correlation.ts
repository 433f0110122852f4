import { spreadsOver, type Spread } from '../../../core/measure/spread';
import { drawLevelAxis, FIGURE_FONT } from '../../kit/axes';
import { change } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** Correlation over the whole track, of everything or of one band. */
export interface CorrelationPicture {
  /** Before and after the stage; null before it is measured. */
  values: { before: Float32Array; after: Float32Array } | null;
  /** What it is the correlation of. */
  name: string;
}

/** Pixels of a stretch that has one spread. */
const STRETCH = 6;
const TOP = 18;
const RIGHT = 30;

/**
 * Correlation over the track as a band of typical values (the middle half of each stretch) between its extremes; the
 * middle of what went in as a line.
 */
export function drawCorrelation(surface: Surface, { values, name }: CorrelationPicture, palette: Palette): void {
  const { context, width, height } = surface;
  const left = 6;
  const plot = width - RIGHT - left;
  const y = (value: number) => TOP + ((1 - value) / 2) * (height - TOP - 10);
  context.font = FIGURE_FONT;
  context.textAlign = 'left';
  context.fillStyle = palette.quiet;
  context.fillText(values ? `${name}, whole track` : 'not measured yet', left, 12);
  const text = (value: number) => change(value, 0);
  drawLevelAxis(surface, palette, [1, 0, -1], y, { left, right: left + plot, figures: 'right', gap: 5, text });
  if (!values) return;
  const stretches = Math.max(1, Math.min(values.after.length, Math.floor(plot / STRETCH)));
  const x = (i: number) => left + ((i + 0.5) / stretches) * plot;
  const after = spreadsOver(values.after, stretches);
  const area = (upper: keyof Spread, lower: keyof Spread, alpha: number) => {
    context.globalAlpha = alpha;
    context.fillStyle = palette.patina;
    for (const [from, to] of runsOf(after)) {
      context.beginPath();
      for (let i = from; i < to; i++) context.lineTo(x(i), y(after[i]![upper]));
      for (let i = to - 1; i >= from; i--) context.lineTo(x(i), y(after[i]![lower]));
      context.closePath();
      context.fill();
    }
    context.globalAlpha = 1;
  };
  area('most', 'least', 0.22);
  area('upper', 'lower', 0.75);
  const before = spreadsOver(values.before, stretches);
  context.strokeStyle = palette.copper;
  context.lineWidth = 1.3;
  for (const [from, to] of runsOf(before)) {
    context.beginPath();
    for (let i = from; i < to; i++) context.lineTo(x(i), y(before[i]!.median));
    context.stroke();
  }
}

/** Stretches that follow each other without a gap, from and to. */
function runsOf(spreads: readonly (Spread | null)[]): [from: number, to: number][] {
  const runs: [number, number][] = [];
  spreads.forEach((spread, i) => {
    if (!spread) return;
    const last = runs.at(-1);
    if (last?.[1] === i) last[1]++;
    else runs.push([i, i + 1]);
  });
  return runs;
}
