import { THIRD_OCTAVES_HZ } from '../../../core/measure/balance';
import { drawLevelAxis, FIGURE_FONT } from '../../kit/axes';
import { figure, hertz } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** dB above and below equal. */
const REACH_DB = 12;
const LEVELS = [-10, -5, 0, 5, 10];
const NAMED_HZ = [31.6, 100, 316, 1000, 3160, 10000];
const [LEFT, RIGHT, FOOT] = [8, 34, 18];

/** Draws by how much the master is above or below a reference in each third-octave, at equal loudness, in dB. */
export function drawBalanceDifference(
  surface: Surface,
  difference: readonly (number | null)[],
  palette: Palette,
): void {
  const { context, width, height } = surface;
  const foot = height - FOOT;
  const right = width - RIGHT;
  const y = (db: number) => ((REACH_DB - Math.max(-REACH_DB, Math.min(REACH_DB, db))) / (2 * REACH_DB)) * foot;
  const step = (right - LEFT) / THIRD_OCTAVES_HZ.length;
  drawLevelAxis(surface, palette, LEVELS, y, {
    ...{ left: LEFT, right, figures: 'right', gap: 4 },
    text: (db) => (db > 0 ? `+${db}` : figure(db, 0)),
  });
  difference.forEach((db, i) => {
    if (db === null) return;
    context.fillStyle = palette.ink;
    context.fillRect(LEFT + i * step + 1, Math.min(y(0), y(db)), step - 2, Math.max(1, Math.abs(y(db) - y(0))));
  });
  context.font = FIGURE_FONT;
  context.textAlign = 'center';
  context.fillStyle = palette.quiet;
  THIRD_OCTAVES_HZ.forEach((hz, i) => {
    if (NAMED_HZ.some((named) => Math.abs(named / hz - 1) < 0.02))
      context.fillText(hertz(Number(hz.toPrecision(2))), LEFT + (i + 0.5) * step, height - 4);
  });
}
