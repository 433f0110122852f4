import { FIGURE_FONT } from '../../kit/axes';
import { figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

const [LOWEST_LUFS, HIGHEST_LUFS] = [-48, 0];
const NAMED = [-40, -30, -23, -14, -6];

/** Shares of time with each loudness, in steps of 1 LU from −48 LUFS up; what is quieter is left out. */
export function loudnessHistogram(shortTerm: Float32Array): Float64Array {
  const counts = new Float64Array(HIGHEST_LUFS - LOWEST_LUFS);
  let total = 0;
  for (const lufs of shortTerm) {
    const step = Math.floor(lufs - LOWEST_LUFS);
    if (!(step >= 0)) continue;
    counts[Math.min(counts.length - 1, step)]++;
    total++;
  }
  return total === 0 ? counts : counts.map((count) => count / total);
}

/** Draws how often the programme has each short-term loudness, and a mark where it is now. */
export function drawLoudnessHistogram(
  { context, width, height }: Surface,
  shares: Float64Array,
  nowLufs: number,
  color: string,
  palette: Palette,
): void {
  const foot = height - 16;
  const most = Math.max(0.02, ...shares);
  const x = (lufs: number) => ((lufs - LOWEST_LUFS) / (HIGHEST_LUFS - LOWEST_LUFS)) * width;
  context.fillStyle = color;
  shares.forEach((share, i) => {
    const tall = (share / most) * (foot - 4);
    context.fillRect(x(LOWEST_LUFS + i) + 0.5, foot - tall, width / shares.length - 1, tall);
  });
  context.fillStyle = palette.hairline;
  context.fillRect(0, foot, width, 1);
  if (nowLufs > LOWEST_LUFS) {
    context.fillStyle = palette.ink;
    context.fillRect(x(Math.min(HIGHEST_LUFS, nowLufs)) - 1, 0, 2, foot);
  }
  context.font = FIGURE_FONT;
  context.textAlign = 'center';
  context.fillStyle = palette.quiet;
  for (const lufs of NAMED) context.fillText(figure(lufs, 0), x(lufs), height - 3);
}
