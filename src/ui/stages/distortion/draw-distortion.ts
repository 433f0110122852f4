import type { DistortionReading } from '../../../core/measure/distortion';
import { drawLevelAxis } from '../../kit/axes';
import { hertz } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

const TOP_DBFS = -12;
const FLOOR_DBFS = -90;
const LINES = [-20, -40, -60, -80];
const NAMED_HZ = [100, 1000, 10000];

/** Third-octaves of the music, and of the distortion that a stage adds to it. */
export function drawDistortion(surface: Surface, bands: DistortionReading['bands'], palette: Palette): void {
  const { context, width, height } = surface;
  const [left, right, top, bottom] = [34, 8, 6, 18];
  const y = (dbfs: number) =>
    top +
    ((TOP_DBFS - Math.max(FLOOR_DBFS, Math.min(TOP_DBFS, dbfs))) / (TOP_DBFS - FLOOR_DBFS)) * (height - top - bottom);
  drawLevelAxis(surface, palette, LINES, y, { left, right: width - right, figures: 'left', gap: 5 });
  const step = (width - left - right) / Math.max(1, bands.length);
  context.textAlign = 'center';
  bands.forEach(({ hz, programmeDbfs, distortionDbfs }, i) => {
    const x = left + i * step;
    context.fillStyle = palette.patina;
    context.globalAlpha = 0.35;
    context.fillRect(x + 1, y(programmeDbfs), step - 2, height - bottom - y(programmeDbfs));
    context.globalAlpha = 1;
    context.fillRect(x + 1, y(programmeDbfs), step - 2, 1.5);
    context.fillStyle = palette.copper;
    if (distortionDbfs > FLOOR_DBFS)
      context.fillRect(x + step * 0.28, y(distortionDbfs), step * 0.44, height - bottom - y(distortionDbfs));
    context.fillStyle = palette.quiet;
    if (NAMED_HZ.some((named) => Math.abs(hz / named - 1) < 0.02))
      context.fillText(hertz(hz), x + step / 2, height - 5);
  });
}
