import type { Biquad } from '../../../core/signal/biquad';
import { bandSections, sectionsGainDb } from '../../../core/stages/equalizer/design';
import type { EqualizerBand } from '../../../core/stages/equalizer/settings';
import { drawFrequencyAxis, drawLevelAxis, FIGURE_FONT } from '../../kit/axes';
import { change as signed, figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import { FIGURE_FACE } from '../../theme/theme';
import { BOTTOM, frequencyAt, LEFT, RIGHT, shareOf, TOP } from './equalizer-axes';
import type { Layer } from './spectrum-choice';
import { SPECTRUM_FLOOR, spectrumColumns, type SpectrumLevels } from './spectrum-line';

const SPECTRUM_TOP = -12;
/** Levels of the spectra that are named at the right, in dBFS. */
const SPECTRUM_LINES = [-24, -48, -72];

/** Level in dBFS of the spectra at a share of the height, from the top down. */
export function spectrumLevelAt(share: number): number {
  return SPECTRUM_TOP + share * (SPECTRUM_FLOOR - SPECTRUM_TOP);
}

/** Share of the width at which a reference is named. */
const REFERENCE_NAMED_AT = 0.12;

/** Hz at which the curve of a part may be named. */
const NAMING_HZ = [20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000];

/** Filters of an equalizer. */
export interface EqualizerCurves {
  /** Of both channels. */
  rest: readonly Biquad[];
  /** The same with moving bands as far as they go; null where none moves. */
  far: readonly Biquad[] | null;
  /** Of each part that has bands of its own, those of both channels included. */
  parts: readonly { part: EqualizerBand['part']; sections: readonly Biquad[] }[];
}

/** An equalizer as it is drawn. */
export interface EqualizerPicture {
  /** dB from the middle to the upper edge. */
  range: number;
  sampleRate: number;
  curves: EqualizerCurves;
  /** Filters of both channels as moving bands stand now. */
  current: readonly Biquad[];
  on: boolean;
  /** The open band as it sounds. */
  open: EqualizerBand | null;
}

/** The spectra behind the curve: of now, their highest since playback started, and of the whole track. */
export interface EqualizerSpectra {
  layers: readonly Layer[];
  live: SpectrumLevels;
  held: Float32Array;
  average: SpectrumLevels;
  /** A reference at equal loudness; null for none. */
  reference: { title: string; levels: Float32Array } | null;
}

/** The curve of an equalizer, where its moving bands can go, and the spectra behind it. */
export function drawEqualizer(
  surface: Surface,
  { range, sampleRate, curves, current, on, open }: EqualizerPicture,
  { layers, live, held, average, reference }: EqualizerSpectra,
  palette: Palette,
): void {
  const { context, width, height } = surface;
  const plot = width - LEFT - RIGHT;
  const body = height - TOP - BOTTOM;
  const x = (frequency: number) => LEFT + shareOf(frequency) * plot;
  const y = (db: number) => TOP + ((range - Math.max(-range * 1.05, Math.min(range * 1.05, db))) / (2 * range)) * body;
  drawFrequencyAxis(surface, palette, x, { top: TOP, bottom: TOP + body });
  const lines = Array.from({ length: 7 }, (_, i) => ((i - 3) * range) / 4);
  const text = (db: number) => signed(db, 0);
  drawLevelAxis(surface, palette, lines, y, { left: LEFT, right: LEFT + plot, figures: 'left', gap: 8, text });
  context.fillStyle = palette.quiet;
  context.fillRect(LEFT, y(0), plot, 1);

  context.save();
  context.beginPath();
  context.rect(LEFT, TOP, plot, body);
  context.clip();
  const columns = spectrumColumns(width);
  const shows = (layer: Layer) => layers.includes(layer);
  const level = (db: number) => TOP + ((SPECTRUM_TOP - db) / (SPECTRUM_TOP - SPECTRUM_FLOOR)) * body;
  const trace = (levels: Float32Array, place: (db: number) => number) => {
    context.beginPath();
    levels.forEach((db, i) => {
      if (!Number.isNaN(db)) context.lineTo(LEFT + (i / (levels.length - 1)) * plot, place(db));
    });
  };
  const line = (levels: Float32Array, color: string, lineWidth: number, dash: number[] = [], place = level) => {
    if (levels.length === 0) return;
    trace(levels, place);
    context.setLineDash(dash);
    context.strokeStyle = color;
    context.lineWidth = lineWidth;
    context.stroke();
    context.setLineDash([]);
  };
  const heard = live.before.length > 0;
  if (shows('after') && heard) {
    trace(live.after, level);
    context.lineTo(LEFT + plot, TOP + body);
    context.lineTo(LEFT, TOP + body);
    context.globalAlpha = 0.25;
    context.fillStyle = palette.patina;
    context.fill();
    context.globalAlpha = 1;
  }
  if (shows('before')) line(live.before, palette.copper, 1);
  if (shows('held')) line(held, palette.patina, 1);
  if (shows('average')) {
    line(average.before, palette.copper, 1.4, [1.5, 3]);
    line(average.after, palette.patina, 1.4, [1.5, 3]);
  }
  if (reference) {
    line(reference.levels, palette.ink, 1);
    context.font = FIGURE_FONT;
    context.textAlign = 'left';
    context.fillStyle = palette.ink;
    // Named where it begins to fall at the right, above its line.
    const at = Math.round(REFERENCE_NAMED_AT * (columns - 1));
    const db = reference.levels[at];
    if (Number.isFinite(db)) context.fillText(reference.title, LEFT + REFERENCE_NAMED_AT * plot, level(db) - 6);
  }
  if (shows('difference') && heard)
    line(
      live.after.map((db, i) => (Math.max(db, live.before[i]) > SPECTRUM_FLOOR + 6 ? db - live.before[i] : 0)),
      palette.ink,
      1,
      [2, 2],
      y,
    );

  const gains = (of: readonly Biquad[]) =>
    Float32Array.from({ length: columns }, (_, i) => sectionsGainDb(of, frequencyAt(i / (columns - 1)), sampleRate));
  const rest = gains(curves.rest);
  if (curves.far) {
    // What moving bands can do lies between rest and the furthest.
    trace(rest, y);
    gains(curves.far).forEach((_, i, far) =>
      context.lineTo(LEFT + plot * (1 - i / (columns - 1)), y(far[columns - 1 - i])),
    );
    context.globalAlpha = 0.12;
    context.fillStyle = palette.ink;
    context.fill();
    context.globalAlpha = 1;
  }
  if (open?.on) line(gains(bandSections(open, sampleRate)), palette.quiet, 1, [], y);
  context.font = `12px ${FIGURE_FACE}`;
  context.textAlign = 'left';
  curves.parts.forEach(({ part, sections }, i) => {
    line(gains(sections), palette.ink, 1.4, [6, 4], y);
    // Named where it lies furthest from the curve of both channels, inside the picture.
    const gain = (frequency: number) => sectionsGainDb(sections, frequency, sampleRate);
    const distance = (frequency: number) =>
      Math.abs(gain(frequency)) > 0.8 * range
        ? 0
        : Math.abs(gain(frequency) - sectionsGainDb(curves.rest, frequency, sampleRate));
    const at = NAMING_HZ.reduce((best, frequency) => (distance(frequency) > distance(best) ? frequency : best));
    context.fillStyle = palette.ink;
    context.fillText(part, Math.min(width - 60, x(at) + 4 + i * 2), y(gain(at)) - 5);
  });
  line(gains(current), on ? palette.ink : palette.quiet, 2.2, [], y);
  context.restore();
  if (layers.length === 0) return;
  context.font = FIGURE_FONT;
  context.textAlign = 'left';
  context.fillStyle = palette.quiet;
  context.fillText('dBFS', LEFT + plot + 2, TOP + 8);
  for (const db of SPECTRUM_LINES) {
    context.fillRect(LEFT + plot, level(db), 5, 1);
    context.fillText(figure(db, 0), LEFT + plot + 8, level(db) + 4);
  }
}
