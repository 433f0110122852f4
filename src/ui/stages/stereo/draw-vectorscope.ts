import { FIGURE_FONT } from '../../kit/axes';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** Frames that are drawn at a time. */
const FRAMES = 2048;

/** Rings with mid and side, the frames written so far, and those of them that are newer than what is heard. */
export interface StereoRing {
  mid: Float32Array;
  side: Float32Array;
  written: Int32Array;
  lead?: number;
}

/** The newest frames of a signal, mid upwards and side across; only the axes at rest, without a ring. */
export function drawVectorscope(
  { context, width, height }: Surface,
  ring: StereoRing | null,
  palette: Palette,
  color = palette.patina,
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
  if (!ring) {
    context.textAlign = 'center';
    context.fillText('Play to see', x, y + half / 2);
    return;
  }
  const { mid, side, lead = 0 } = ring;
  const written = ring.written[0] - lead;
  let most = 1e-4;
  for (let i = 0; i < FRAMES; i++) {
    const at = (written - 1 - i + 2 * mid.length) % mid.length;
    most = Math.max(most, Math.abs(mid[at]) + Math.abs(side[at]));
  }
  const scale = half / most;
  context.fillStyle = color;
  context.globalAlpha = 0.55;
  for (let i = 0; i < FRAMES; i++) {
    const at = (written - 1 - i + 2 * mid.length) % mid.length;
    // Left lies at the left: the side is left less right.
    context.fillRect(x - side[at] * scale - 0.7, y - mid[at] * scale - 0.7, 1.4, 1.4);
  }
  context.globalAlpha = 1;
}
