import { FIGURE_FONT } from '../../kit/axes';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import type { LiveWindow } from './live-window';

/** Time across the picture. */
export const SPAN_MS = 8;

/** Where the loudest piece of so many frames begins that starts at a rising zero. */
function begin(x: Float32Array, frames: number): number {
  let [best, most] = [0, -1];
  for (let i = 1; i + frames < x.length; i++) {
    if (!(x[i - 1] <= 0 && x[i] > 0)) continue;
    let peak = 0;
    for (let k = i; k < i + frames; k += 4) peak = Math.max(peak, Math.abs(x[k]));
    if (peak > most) [best, most] = [i, peak];
  }
  return best;
}

/** A wave before and after a stage; null before anything is known. */
export interface WavePicture {
  wave: LiveWindow | null;
  /** Frames that are shown of it: {@link SPAN_MS}. */
  frames: number;
}

/** The wave before a stage in copper and after it in patina, from a rising zero, so that it stands still. */
export function drawWave({ context, width, height }: Surface, { wave, frames }: WavePicture, palette: Palette): void {
  context.font = FIGURE_FONT;
  context.fillStyle = palette.hairline;
  context.fillRect(0, height / 2, width, 1);
  if (!wave || wave.before.length === 0) {
    context.fillStyle = palette.quiet;
    context.textAlign = 'center';
    context.fillText('Not measured yet', width / 2, height / 2 - 6);
    return;
  }
  const { before, after } = wave;
  const start = begin(before, frames);
  let most = 0.05;
  for (let i = start; i < start + frames; i++) most = Math.max(most, Math.abs(before[i]), Math.abs(after[i]));
  const line = (of: Float32Array, color: string, thickness: number) => {
    context.strokeStyle = color;
    context.lineWidth = thickness;
    context.beginPath();
    for (let i = 0; i < frames; i++)
      context.lineTo((i / frames) * width, height / 2 - (of[start + i] / most) * (height / 2 - 6));
    context.stroke();
  };
  line(before, palette.copper, 1.4);
  line(after, palette.patina, 1.8);
  context.fillStyle = palette.quiet;
  context.textAlign = 'left';
  context.fillText(`${SPAN_MS} ms`, 8, height - 5);
}
