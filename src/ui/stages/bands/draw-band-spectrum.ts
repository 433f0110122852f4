import { bandEdges, type Crossovers } from '../../../core/stages/bands/crossovers';
import { drawFrequencyAxis, FIGURE_FONT } from '../../kit/axes';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import { HIGH, LEFT, LOW, RIGHT, shareOf } from '../equalizer/equalizer-axes';
import { SPECTRUM_FLOOR, type SpectrumLevels } from '../equalizer/spectrum-line';

const TOP_DB = -12;
/** Room for the frequencies below, in pixels. */
export const AXIS = 18;

/** The lane's bands, and the music. */
export interface BandSpectrumPicture {
  crossovers: Crossovers;
  /** The band that is open. */
  open: number;
  /** What is written at the top of each band. */
  names: readonly string[];
  levels: SpectrumLevels;
  /** Draws more into each band: from and to in pixels. */
  draw?: (surface: Surface, band: number, from: number, to: number) => void;
}

/** The spectrum before a stage as a line and after it as an area, over the lane's bands. */
export function drawBandSpectrum(
  surface: Surface,
  { crossovers, open, names, levels, draw }: BandSpectrumPicture,
  palette: Palette,
): void {
  const { context, width, height } = surface;
  const plot = width - LEFT - RIGHT;
  const body = height - AXIS;
  const x = (hz: number) => LEFT + shareOf(Math.max(LOW, Math.min(HIGH, hz))) * plot;
  context.font = FIGURE_FONT;
  context.textAlign = 'center';
  names.forEach((name, band) => {
    const [from, to] = bandEdges(crossovers, band).map(x);
    if (band === open) {
      context.fillStyle = palette.sunken;
      context.fillRect(from, 0, to - from, body);
    }
    context.fillStyle = palette.quiet;
    if (to - from > 40) context.fillText(name, (from + to) / 2, 34);
  });
  drawFrequencyAxis(surface, palette, x, { top: 0, bottom: body });
  const y = (db: number) => ((TOP_DB - Math.max(SPECTRUM_FLOOR, db)) / (TOP_DB - SPECTRUM_FLOOR)) * body;
  context.save();
  context.beginPath();
  context.rect(LEFT, 0, plot, body);
  context.clip();
  const trace = (line: Float32Array) =>
    line.forEach((db, i) => context.lineTo(LEFT + (i / (line.length - 1)) * plot, y(db)));
  context.beginPath();
  trace(levels.after);
  context.lineTo(LEFT + plot, body);
  context.lineTo(LEFT, body);
  context.globalAlpha = 0.25;
  context.fillStyle = palette.patina;
  context.fill();
  context.globalAlpha = 1;
  context.strokeStyle = palette.copper;
  context.lineWidth = 1;
  context.beginPath();
  trace(levels.before);
  context.stroke();
  names.forEach((_, band) => {
    const [from, to] = bandEdges(crossovers, band).map(x);
    draw?.(surface, band, from, to);
  });
  context.restore();
}
