import { spanOf, type Edges } from '../../../core/sequence/edges';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** Where a programme is drawn: what a frame's place is on the surface, and where the waveform ends below. */
interface Ground {
  sampleRate: number;
  frames: number;
  x: (frame: number) => number;
  bottom: number;
}

/** Greys what the edges cut off, and draws a line at each edge and along each fade. */
export function drawEdges(
  { context, width }: Surface,
  edges: Edges,
  { sampleRate, frames, x, bottom }: Ground,
  palette: Palette,
): void {
  const { start, end } = spanOf(edges, sampleRate, frames);
  const [from, to] = [Math.max(0, x(start)), Math.min(width, x(end))];
  context.fillStyle = palette.quiet;
  context.globalAlpha = 0.22;
  context.fillRect(0, 0, from, bottom);
  context.fillRect(to, 0, width - to, bottom);
  context.globalAlpha = 1;
  context.fillStyle = palette.ink;
  if (start > 0) context.fillRect(from - 0.5, 0, 1, bottom);
  if (end < frames) context.fillRect(to - 0.5, 0, 1, bottom);
  context.strokeStyle = palette.ink;
  context.lineWidth = 1;
  context.beginPath();
  if (edges.fadeIn.seconds > 0) {
    context.moveTo(from, bottom);
    context.lineTo(x(start + edges.fadeIn.seconds * sampleRate), 0);
  }
  if (edges.fadeOut.seconds > 0) {
    context.moveTo(x(end - edges.fadeOut.seconds * sampleRate), 0);
    context.lineTo(to, bottom);
  }
  context.stroke();
}
