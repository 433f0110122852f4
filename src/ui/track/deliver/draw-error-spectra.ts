import { errorColumnHz } from '../../../core/deliver/error-spectrum';
import { drawFrequencyAxis, drawLevelAxis } from '../../kit/axes';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

const [TOP_DB, FLOOR_DB] = [42, -36];
const LEVELS = [40, 20, 0, -20];
const [LEFT, RIGHT, TOP, FOOT] = [34, 8, 6, 20];
const LOWEST_HZ = 50;

/** Draws the spectra of errors over the octaves, in dB above plain rounding; the chosen one is bold. */
export function drawErrorSpectra(
  surface: Surface,
  spectra: readonly { columns: Float32Array; chosen: boolean }[],
  sampleRate: number,
  palette: Palette,
): void {
  const { context, width, height } = surface;
  const [plot, body] = [width - LEFT - RIGHT, height - TOP - FOOT];
  const highest = sampleRate / 2;
  const x = (hz: number) => LEFT + (Math.log(hz / LOWEST_HZ) / Math.log(highest / LOWEST_HZ)) * plot;
  const y = (db: number) => TOP + ((TOP_DB - Math.max(FLOOR_DB, Math.min(TOP_DB, db))) / (TOP_DB - FLOOR_DB)) * body;
  drawFrequencyAxis(surface, palette, x, { top: TOP, bottom: TOP + body, lowestHz: LOWEST_HZ });
  drawLevelAxis(surface, palette, LEVELS, y, { left: LEFT, right: LEFT + plot, figures: 'left' });
  for (const { columns, chosen } of [...spectra].sort((a, b) => Number(a.chosen) - Number(b.chosen))) {
    context.beginPath();
    columns.forEach((db, i) => context.lineTo(x(errorColumnHz((i + 0.5) / columns.length, sampleRate)), y(db)));
    context.strokeStyle = chosen ? palette.ink : palette.quiet;
    context.lineWidth = chosen ? 2.2 : 1;
    context.stroke();
  }
}
