import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** Height of the ribbon at a joint, in pixels: its body, and the paler edge around it. */
export interface RibbonSize {
  body: number;
  edge: number;
}

/** Where nothing is known yet. */
export const RIBBON_AT_REST: Readonly<RibbonSize> = { body: 2, edge: 3 };

/** The ribbon at a joint of such a loudness and peak. */
export function ribbonAt(lufs: number, truePeakDbtp: number): RibbonSize {
  return {
    body: Math.max(RIBBON_AT_REST.body, Math.min(46, (lufs + 42) * 1.25)),
    edge: Math.max(RIBBON_AT_REST.edge, Math.min(58, (truePeakDbtp + 36) * 1.5)),
  };
}

/** The ribbon from joint to joint, with a stage in the middle between each two; `inset` in pixels at both ends. */
export function drawRibbon(
  { context, width, height }: Surface,
  sizes: readonly RibbonSize[],
  inset: number,
  palette: Palette,
): void {
  const stops = sizes.length - 1;
  const stopX = (stage: number) => inset + ((stage + 0.5) / stops) * (width - 2 * inset);
  const middle = height / 2;
  const gradient = context.createLinearGradient(0, 0, width, 0);
  gradient.addColorStop(0, palette.copper);
  gradient.addColorStop(1, palette.patina);
  context.fillStyle = gradient;
  const shape = (size: (joint: number) => number, alpha: number) => {
    context.globalAlpha = alpha;
    context.beginPath();
    for (const sign of [-1, 1]) {
      const edgeY = (joint: number) => middle + (sign * size(joint)) / 2;
      // One edge is walked forth, the other back; each stop bends the ribbon within a few pixels.
      if (sign < 0) {
        context.moveTo(0, edgeY(0));
        for (let stage = 0; stage < stops; stage++) {
          const x = stopX(stage);
          context.lineTo(x - 18, edgeY(stage));
          context.bezierCurveTo(x, edgeY(stage), x, edgeY(stage + 1), x + 18, edgeY(stage + 1));
        }
        context.lineTo(width, edgeY(stops));
      } else {
        context.lineTo(width, edgeY(stops));
        for (let stage = stops - 1; stage >= 0; stage--) {
          const x = stopX(stage);
          context.lineTo(x + 18, edgeY(stage + 1));
          context.bezierCurveTo(x, edgeY(stage + 1), x, edgeY(stage), x - 18, edgeY(stage));
        }
        context.lineTo(0, edgeY(0));
      }
    }
    context.closePath();
    context.fill();
    context.globalAlpha = 1;
  };
  shape((joint) => sizes[joint].edge, 0.28);
  shape((joint) => sizes[joint].body, 1);
}
