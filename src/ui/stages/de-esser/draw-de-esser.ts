import type { Biquad } from '../../../core/signal/biquad';
import { sectionsGainDb } from '../../../core/stages/equalizer/design';
import { drawFrequencyAxis } from '../../kit/axes';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import { frequencyAt, LEFT, RIGHT, shareOf } from '../equalizer/equalizer-axes';
import { SPECTRUM_FLOOR, spectrumColumns, type SpectrumLevels } from '../equalizer/spectrum-line';

const TOP_DB = -12;
const AXIS = 18;

/** The region that a de-esser listens to, and the music. */
export interface DeEsserPicture {
  /** Filters that pass the region. */
  region: readonly Biquad[];
  sampleRate: number;
  levels: SpectrumLevels;
}

/** The spectrum before and after a de-esser over the region that it listens to: full height where all of it is heard. */
export function drawDeEsser(surface: Surface, { region, sampleRate, levels }: DeEsserPicture, palette: Palette): void {
  const { context, width, height } = surface;
  const plot = width - LEFT - RIGHT;
  const body = height - AXIS;
  const x = (hz: number) => LEFT + shareOf(hz) * plot;
  drawFrequencyAxis(surface, palette, x, { top: 0, bottom: body, lowestHz: 50 });
  const columns = spectrumColumns(width);
  const y = (db: number) => ((TOP_DB - Math.max(SPECTRUM_FLOOR, db)) / (TOP_DB - SPECTRUM_FLOOR)) * body;
  const place = (i: number, count: number) => LEFT + (i / (count - 1)) * plot;
  context.save();
  context.beginPath();
  context.rect(LEFT, 0, plot, body);
  context.clip();
  context.beginPath();
  context.moveTo(LEFT, body);
  for (let i = 0; i < columns; i++) {
    const gain = 10 ** (sectionsGainDb(region, frequencyAt(i / (columns - 1)), sampleRate) / 20);
    context.lineTo(place(i, columns), body * (1 - 0.94 * Math.min(1, gain)));
  }
  context.lineTo(LEFT + plot, body);
  context.globalAlpha = 0.14;
  context.fillStyle = palette.ochre;
  context.fill();
  context.globalAlpha = 1;
  const trace = (line: Float32Array, color: string) => {
    context.strokeStyle = color;
    context.lineWidth = 1.4;
    context.beginPath();
    line.forEach((db, i) => context.lineTo(place(i, line.length), y(db)));
    context.stroke();
  };
  trace(levels.before, palette.copper);
  trace(levels.after, palette.patina);
  context.restore();
}
