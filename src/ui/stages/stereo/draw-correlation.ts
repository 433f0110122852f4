import type { StageImages } from '../../../engine/measure/measurement';
import { drawLevelAxis, FIGURE_FONT } from '../../kit/axes';
import { change } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** Correlation over the whole track, and the band that is open. */
export interface CorrelationPicture {
  /** Before and after the stage; null before it is measured. */
  images: StageImages | null;
  band: number;
}

/** Correlation before the stage and after it: of everything, and dotted of one band. */
export function drawCorrelation(surface: Surface, { images, band }: CorrelationPicture, palette: Palette): void {
  const { context, width, height } = surface;
  const right = width - 30;
  const y = (value: number) => 18 + ((1 - value) / 2) * (height - 28);
  context.font = FIGURE_FONT;
  context.textAlign = 'left';
  context.fillStyle = palette.quiet;
  context.fillText(images ? `whole track; dotted: band ${band + 1}` : 'not measured yet', 6, 12);
  const text = (value: number) => change(value, 0);
  drawLevelAxis(surface, palette, [1, 0, -1], y, { left: 6, right, figures: 'right', gap: 5, text });
  const line = (values: Float32Array | undefined, color: string, dash: number[] = []) => {
    context.strokeStyle = color;
    context.lineWidth = dash.length > 0 ? 1 : 1.4;
    context.setLineDash(dash);
    context.beginPath();
    values?.forEach((value, i) => {
      const x = 6 + (i / Math.max(1, (values?.length ?? 1) - 1)) * (right - 6);
      if (Number.isNaN(value)) context.moveTo(x, y(0));
      else context.lineTo(x, y(value));
    });
    context.stroke();
    context.setLineDash([]);
  };
  if (images) {
    line(images.before.bands[band], palette.copper, [1.5, 3]);
    line(images.after.bands[band], palette.patina, [1.5, 3]);
    line(images.before.correlation, palette.copper);
    line(images.after.correlation, palette.patina);
  }
}
