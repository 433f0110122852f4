import { FIGURE_FONT } from '../../kit/axes';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

const STEPS = 120;

/** A curve of amplitudes, and the samples of the music that go into it. */
export interface CurvePicture {
  curve: (x: number) => number;
  samples: Float32Array;
}

/** What comes out for what goes in, from −1 to 1, with the samples of the music on it. */
export function drawCurve(
  { context, width, height }: Surface,
  { curve, samples }: CurvePicture,
  palette: Palette,
): void {
  const side = Math.min(width - 20, height - 26);
  const [left, top] = [(width - side) / 2, 8];
  const x = (value: number) => left + ((value + 1) / 2) * side;
  const y = (value: number) => top + ((1 - Math.max(-1.1, Math.min(1.1, value))) / 2) * side;
  context.fillStyle = palette.hairline;
  for (const line of [-1, -0.5, 0, 0.5, 1]) {
    context.fillRect(left, y(line), side, 1);
    context.fillRect(x(line), top, 1, side);
  }
  context.strokeStyle = palette.quiet;
  context.setLineDash([3, 3]);
  context.beginPath();
  context.moveTo(x(-1), y(-1));
  context.lineTo(x(1), y(1));
  context.stroke();
  context.setLineDash([]);
  context.fillStyle = palette.copper;
  context.globalAlpha = 0.25;
  for (let i = 0; i < samples.length; i += 2) {
    const value = samples[i];
    if (Math.abs(value) <= 1) context.fillRect(x(value) - 1, y(curve(value)) - 3, 2, 6);
  }
  context.globalAlpha = 1;
  context.strokeStyle = palette.ink;
  context.lineWidth = 2.2;
  context.beginPath();
  for (let i = 0; i <= STEPS; i++) {
    const value = (2 * i) / STEPS - 1;
    context.lineTo(x(value), y(curve(value)));
  }
  context.stroke();
  context.font = FIGURE_FONT;
  context.fillStyle = palette.quiet;
  context.textAlign = 'center';
  context.fillText('in, full scale', left + side / 2, top + side + 13);
}
