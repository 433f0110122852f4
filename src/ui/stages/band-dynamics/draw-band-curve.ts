import { LEVEL_CLASSES, LOWEST_DB } from '../../../core/measure/band-levels';
import { bandOutput } from '../../../core/stages/band-dynamics/design';
import type { DynamicsBand } from '../../../core/stages/band-dynamics/settings';
import { FIGURE_FONT } from '../../kit/axes';
import { figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import { CURVE_HIGH, CURVE_LOW } from './curve-points';

/** One band's curve, and the music on it. */
export interface BandCurvePicture {
  band: DynamicsBand;
  /** Share of the time at each level from {@link LOWEST_DB} up; null before it is measured. */
  levels: Float32Array | null;
  /** The highest level in dBFS of late, and the gain reduction in dB; null at rest. */
  now: { level: number; reduction: number } | null;
  /** Largest gain reduction in dB of the track; null before it is measured. */
  most: number | null;
  name: string;
  open: boolean;
}

/** Room around the curve, in pixels. */
const CURVE_MARGIN = { left: 6, right: 6, top: 18, bottom: 4 } as const;
const GRID = [-60, -48, -36, -24, -12];

/** Places in pixels of levels in and out, in a picture of a size. */
export function curveScale(width: number, height: number) {
  const { left, right, top, bottom } = CURVE_MARGIN;
  const share = (db: number) => (db - CURVE_LOW) / (CURVE_HIGH - CURVE_LOW);
  return {
    x: (into: number) => left + share(into) * (width - left - right),
    y: (out: number) => height - bottom - share(Math.max(CURVE_LOW, Math.min(6, out))) * (height - top - bottom),
    /** Decibels of a pixel, along each axis. */
    dbAcross: (CURVE_HIGH - CURVE_LOW) / (width - left - right),
    dbUp: (CURVE_HIGH - CURVE_LOW) / (height - top - bottom),
  };
}

/** Level out against level in of a band: what happens below, above and at the top, with how often the music is where. */
export function drawBandCurve(
  { context, width, height }: Surface,
  { band, levels, now, most, name, open }: BandCurvePicture,
  palette: Palette,
): void {
  const { x, y } = curveScale(width, height);
  const foot = height - CURVE_MARGIN.bottom;
  context.font = FIGURE_FONT;
  context.fillStyle = palette.hairline;
  for (const db of GRID) {
    context.fillRect(x(db), CURVE_MARGIN.top, 1, foot - CURVE_MARGIN.top);
    context.fillRect(x(CURVE_LOW), y(db), x(CURVE_HIGH) - x(CURVE_LOW), 1);
  }
  if (levels) {
    const highest = levels.reduce((a, b) => Math.max(a, b), 0);
    const step = x(1) - x(0);
    context.fillStyle = palette.copper;
    context.globalAlpha = 0.35;
    for (let i = 0; i < LEVEL_CLASSES; i++) {
      const size = highest > 0 ? (levels[i] / highest) * (foot - CURVE_MARGIN.top) * 0.45 : 0;
      if (size > 0.5) context.fillRect(x(LOWEST_DB + i) - step / 2, foot - size, Math.max(1, step - 0.5), size);
    }
    context.globalAlpha = 1;
  }
  context.strokeStyle = palette.quiet;
  context.lineWidth = 1;
  context.setLineDash([3, 3]);
  context.beginPath();
  context.moveTo(x(CURVE_LOW), y(CURVE_LOW));
  context.lineTo(x(CURVE_HIGH), y(CURVE_HIGH));
  context.stroke();
  context.setLineDash([]);
  context.strokeStyle = palette.ink;
  context.lineWidth = open ? 2.2 : 1.4;
  context.beginPath();
  for (let db = CURVE_LOW; db <= CURVE_HIGH; db += 0.5) context.lineTo(x(db), y(bandOutput(band, db)));
  context.stroke();
  if (now && now.level > CURVE_LOW) {
    const out = now.level - now.reduction + (band.on ? band.makeupDb : 0);
    context.fillStyle = palette.copper;
    context.fillRect(x(now.level) - 1, y(out), 2, foot - y(out));
    context.beginPath();
    context.arc(x(now.level), y(out), 4, 0, 2 * Math.PI);
    context.fillStyle = palette.patina;
    context.fill();
  }
  context.textAlign = 'left';
  context.fillStyle = open ? palette.ink : palette.quiet;
  context.fillText(name, 6, 12);
  context.textAlign = 'right';
  const reduction = now ? now.reduction : most;
  if (reduction !== null) context.fillText(`${now ? 'now' : 'most'} ${figure(-reduction)} dB`, width - 6, 12);
}
