import type { EdgeGain } from '../../../core/sequence/edges';
import type { StereoBuffer } from '../../../engine/sources/places';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import { envelope } from '../programme/envelope';
import type { View } from '../programme/view';

const MARGIN = 6;
/** Half the width of the mark on an edge. */
const MARK = 6;

/** Draws the mix around an edge: what is kept in full colour under the line of the fade, what is cut in grey. */
export function drawEdge(
  { context, width, height }: Surface,
  view: View,
  mix: StereoBuffer,
  gain: EdgeGain,
  edge: number,
  palette: Palette,
): void {
  const columns = Math.round(width);
  const middle = height / 2;
  const reach = middle - MARGIN;
  const x = (frame: number) => ((frame - view.start) / (view.end - view.start)) * width;
  const frameAt = (column: number) => Math.round(view.start + (column / columns) * (view.end - view.start));
  context.fillStyle = palette.hairline;
  context.fillRect(0, middle, width, 1);
  const found = envelope(view, columns, { reading: null, samples: mix });
  if (!found) return;
  const [low, high] = found;
  const top = Math.max(
    0.02,
    high.reduce((most, value, i) => Math.max(most, value, -low[i]), 0),
  );
  for (let column = 0; column < columns; column++) {
    const kept = gain.at(frameAt(column));
    const bar = (share: number, color: string, alpha: number) => {
      const [from, to] = [middle - (high[column] * share * reach) / top, middle - (low[column] * share * reach) / top];
      context.globalAlpha = alpha;
      context.fillStyle = color;
      context.fillRect(column, from, 1, Math.max(1, to - from));
    };
    bar(1, palette.quiet, 0.45);
    if (kept > 0) bar(kept, palette.copper, 1);
  }
  context.globalAlpha = 1;
  context.beginPath();
  for (let column = 0; column <= columns; column++)
    context.lineTo(column, MARGIN + (1 - gain.at(frameAt(column))) * reach);
  context.strokeStyle = palette.ink;
  context.lineWidth = 1.5;
  context.stroke();
  const at = x(edge);
  context.fillStyle = palette.ink;
  context.fillRect(at - 1, 0, 2, height);
  context.beginPath();
  context.moveTo(at - MARK, height);
  context.lineTo(at + MARK, height);
  context.lineTo(at, height - 1.5 * MARK);
  context.fill();
}
