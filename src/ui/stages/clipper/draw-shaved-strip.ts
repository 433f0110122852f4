import { TRACE_FRAMES } from '../../../engine/measure/measurement';
import { FIGURE_FONT } from '../../kit/axes';
import { figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** What a clipper cuts over the track. */
export interface ShavedStripPicture {
  /** Largest cut in dB of each {@link TRACE_FRAMES}; null before it is measured. */
  trace: Float32Array | null;
  /** Length of the track. */
  frames: number;
}

/** Where in the track something is cut, as columns up to the deepest cut. */
export function drawShavedStrip(
  { context, width, height }: Surface,
  { trace, frames }: ShavedStripPicture,
  palette: Palette,
): void {
  context.fillStyle = palette.sunken;
  context.fillRect(0, 0, width, height);
  context.font = FIGURE_FONT;
  context.fillStyle = palette.quiet;
  context.textAlign = 'left';
  const most = trace?.reduce((a, b) => Math.max(a, b), 0) ?? 0;
  if (!trace || most === 0) {
    context.fillText('Nothing is cut in this track', 8, height - 6);
    return;
  }
  context.fillStyle = palette.copper;
  const perPixel = frames / TRACE_FRAMES / width;
  for (let x = 0; x < width; x++) {
    let here = 0;
    for (let i = Math.floor(x * perPixel); i < (x + 1) * perPixel && i < trace.length; i++)
      here = Math.max(here, trace[i]);
    if (here > 0) context.fillRect(x, height - 2 - (here / most) * (height - 6), 1, (here / most) * (height - 6) + 2);
  }
  context.fillStyle = palette.quiet;
  context.fillText(`cut over the track, up to ${figure(most)} dB`, 8, 11);
}
