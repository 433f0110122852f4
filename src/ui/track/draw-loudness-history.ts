import { drawLevelAxis } from '../kit/axes';
import type { Surface } from '../kit/use-canvas';
import type { Palette } from '../theme/palette';

const [TOP_LUFS, FLOOR_LUFS] = [0, -42];
const RULES = [-6, -12, -18, -24, -30, -36];
/** Pixels at the right for the figures. */
const RIGHT = 26;

/** Loudness at one moment, LUFS. */
export interface LoudnessMoment {
  momentaryLufs: number;
  shortTermLufs: number;
}

/** Momentary loudness as a thin line and short-term as a bold one, the newest at the right of `slots`, on ruled paper. */
export function drawLoudnessHistory(
  surface: Surface,
  moments: readonly LoudnessMoment[],
  slots: number,
  color: string,
  palette: Palette,
): void {
  const { context, width, height } = surface;
  const right = width - RIGHT;
  const y = (lufs: number) =>
    ((TOP_LUFS - Math.min(TOP_LUFS, Math.max(FLOOR_LUFS, lufs))) / (TOP_LUFS - FLOOR_LUFS)) * height;
  drawLevelAxis(surface, palette, RULES, y, { left: 0, right, figures: 'right', gap: 4 });
  const line = (of: (moment: LoudnessMoment) => number, stroke: string, lineWidth: number) => {
    context.strokeStyle = stroke;
    context.lineWidth = lineWidth;
    context.beginPath();
    let drawing = false;
    moments.forEach((moment, i) => {
      const lufs = of(moment);
      const x = right - ((moments.length - 1 - i) / slots) * right;
      // Silence is a gap.
      if (Number.isFinite(lufs)) context[drawing ? 'lineTo' : 'moveTo'](x, y(lufs));
      drawing = Number.isFinite(lufs);
    });
    context.stroke();
  };
  line(({ momentaryLufs }) => momentaryLufs, palette.quiet, 1);
  line(({ shortTermLufs }) => shortTermLufs, color, 2);
}
