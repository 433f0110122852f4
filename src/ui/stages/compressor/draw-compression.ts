import { drawLevelAxis } from '../../kit/axes';
import { figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import { drawReduction } from '../dynamics/reduction-trace';

const FLOOR_DB = -48;
const LINES = [0, -12, -24, -36];
const RIGHT = 40;

/** What a compressor did. */
export interface CompressionPicture {
  /** Gain reductions in dB, the newest last, and how many of them fit. */
  reductions: readonly number[];
  slots: number;
  /** Sample peaks in dBFS that went in and came out at the same times; null when the whole track is shown. */
  live: { into: readonly (number | null)[]; out: readonly (number | null)[] } | null;
  /** Whether the whole track has been measured. */
  measured: boolean;
}

/** Gain reduction, and below it the peaks that went in and came out. */
export function drawCompression(surface: Surface, picture: CompressionPicture, palette: Palette): void {
  const { context, width, height } = surface;
  const { reductions, slots, live, measured } = picture;
  const plot = width - RIGHT - 8;
  const upper = live ? (height - 30) * 0.5 : height - 34;
  const most = drawReduction(surface, palette, { left: 8, top: 10, width: plot, height: upper, slots }, reductions);
  context.textAlign = 'left';
  context.fillStyle = palette.ink;
  if (reductions.length === 0) {
    context.fillStyle = palette.quiet;
    context.textAlign = 'center';
    context.fillText(measured ? 'Nothing is above the threshold' : 'Not measured yet', width / 2, height / 2);
  } else if (!live) context.fillText(`most in the whole track ${figure(-most)} dB`, 12, height - 6);
  if (!live) return;
  const top = 10 + upper + 16;
  const y = (db: number) => top + (Math.min(0, Math.max(FLOOR_DB, db)) / FLOOR_DB) * (height - 8 - top);
  drawLevelAxis(surface, palette, LINES, y, { left: 8, right: 8 + plot, figures: 'right' });
  const line = (peaks: readonly (number | null)[], color: string) => {
    context.strokeStyle = color;
    context.lineWidth = 1.6;
    context.beginPath();
    peaks.forEach((db, i) => {
      if (db !== null) context.lineTo(8 + ((slots - peaks.length + i) / slots) * plot, y(db));
    });
    context.stroke();
  };
  line(live.into, palette.copper);
  line(live.out, palette.patina);
}
