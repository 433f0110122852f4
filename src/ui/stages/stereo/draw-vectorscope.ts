import { TAP_FRAMES, type Taps } from '../../../engine/live/protocol';
import { FIGURE_FONT } from '../../kit/axes';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** Frames that are drawn at a time. */
const FRAMES = 2048;

/** The newest frames that came out of the stage, mid upwards and side across; only the axes at rest, without taps. */
export function drawVectorscope(
  { context, width, height }: Surface,
  taps: Pick<Taps, 'written' | 'after' | 'afterSide'> | null,
  palette: Palette,
): void {
  const half = Math.min(width, height - 12) / 2 - 8;
  const [x, y] = [width / 2, height / 2 + 4];
  context.strokeStyle = palette.hairline;
  context.beginPath();
  context.moveTo(x, y - half);
  context.lineTo(x + half, y);
  context.lineTo(x, y + half);
  context.lineTo(x - half, y);
  context.closePath();
  context.moveTo(x, y - half);
  context.lineTo(x, y + half);
  context.moveTo(x - half, y);
  context.lineTo(x + half, y);
  context.moveTo(x - half / 2, y - half / 2);
  context.lineTo(x + half / 2, y + half / 2);
  context.moveTo(x + half / 2, y - half / 2);
  context.lineTo(x - half / 2, y + half / 2);
  context.stroke();
  context.font = FIGURE_FONT;
  context.fillStyle = palette.quiet;
  context.textAlign = 'center';
  context.fillText('mid', x, y - half - 3);
  context.fillText('L', x - half / 2 - 8, y - half / 2);
  context.fillText('R', x + half / 2 + 8, y - half / 2);
  context.textAlign = 'right';
  context.fillText('side', x + half, y - 4);
  if (!taps) {
    context.textAlign = 'center';
    context.fillText('Play to see', x, y + half / 2);
    return;
  }
  const [written] = taps.written;
  let most = 1e-4;
  for (let i = 0; i < FRAMES; i++) {
    const at = (written - 1 - i + 2 * TAP_FRAMES) % TAP_FRAMES;
    most = Math.max(most, Math.abs(taps.after[at]) + Math.abs(taps.afterSide[at]));
  }
  const scale = half / most;
  context.fillStyle = palette.patina;
  context.globalAlpha = 0.55;
  for (let i = 0; i < FRAMES; i++) {
    const at = (written - 1 - i + 2 * TAP_FRAMES) % TAP_FRAMES;
    // Left lies at the left: the side is left less right.
    context.fillRect(x - taps.afterSide[at] * scale - 0.7, y - taps.after[at] * scale - 0.7, 1.4, 1.4);
  }
  context.globalAlpha = 1;
}
