import { drawLevelAxis } from '../../kit/axes';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

const FLOOR_DB = -100;
const LINES = [0, -25, -50, -75, -100];

/** Levels in dB of the second and further harmonics against the tone: even ones in copper, odd ones in ink. */
export function drawHarmonics(surface: Surface, levels: readonly number[], palette: Palette): void {
  const { context, width, height } = surface;
  const [left, top, bottom] = [34, 6, 18];
  const y = (db: number) => top + (Math.max(FLOOR_DB, Math.min(0, db)) / FLOOR_DB) * (height - top - bottom);
  drawLevelAxis(surface, palette, LINES, y, { left, right: width - 8, figures: 'left', gap: 5 });
  const step = (width - left - 8) / (levels.length + 1);
  context.textAlign = 'right';
  context.fillStyle = palette.copper;
  context.fillText('even', width - 40, top + 12);
  context.fillStyle = palette.ink;
  context.fillText('odd', width - 12, top + 12);
  [0, ...levels].forEach((db, i) => {
    const odd = i % 2 === 0;
    context.fillStyle = i === 0 ? palette.patina : odd ? palette.ink : palette.copper;
    if (db > FLOOR_DB) context.fillRect(left + i * step + step * 0.3, y(db), step * 0.4, height - bottom - y(db));
    context.fillStyle = palette.quiet;
    context.textAlign = 'center';
    context.fillText(i === 0 ? 'tone' : `${i + 1}`, left + (i + 0.5) * step, height - 5);
  });
}
