import { amplitude, decibels } from '../../../core/signal/decibels';
import { outputGainDb, type ClipperSettings } from '../../../core/stages/clipper/settings';
import { drawLevelAxis, FIGURE_FONT } from '../../kit/axes';
import { change, figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** dB that the meters show around the ceiling, and the pixels they take. */
const METER_DB = 12;
const METERS = 74;

/** Largest size in a wave, and where it is. */
export function highest(x: Float32Array): { peak: number; at: number } {
  let [peak, at] = [0, 0];
  for (let i = 0; i < x.length; i++) {
    const size = Math.abs(x[i]);
    if (size > peak) [peak, at] = [size, i];
  }
  return { peak, at };
}

/** A wave around the ceiling of a clipper. */
export interface CeilingPicture {
  /** Samples before and after the stage; the picture is centred on the frame `at`. Empty before anything is known. */
  wave: { before: Float32Array; after: Float32Array; at: number };
  /** Highest sample before and after the stage. */
  peaks: readonly [into: number, out: number];
  settings: ClipperSettings;
  playing: boolean;
  /** dB from the ceiling, in the middle, to the upper edge; and the time across. */
  heightDb: number;
  spanMs: number;
  sampleRate: number;
}

/** The wave around the ceiling: what passes in patina, what is cut in copper above it, and meters of what goes in and out. */
export function drawCeiling(
  surface: Surface,
  { wave, peaks, settings, playing, heightDb, spanMs, sampleRate }: CeilingPicture,
  palette: Palette,
): void {
  const { context, width, height } = surface;
  const { before, after, at } = wave;
  const input = amplitude(settings.inputGainDb);
  const output = amplitude(outputGainDb(settings));
  const ceiling = amplitude(settings.ceilingDbfs);
  const plot = width - METERS - 44;
  const middle = height / 2;
  const reach = ceiling * (amplitude(heightDb) - 1);
  const y = (size: number) => middle - ((size - ceiling) / reach) * (middle - 12);
  const frames = (spanMs / 1000) * sampleRate;
  const first = at - frames / 2;
  context.font = FIGURE_FONT;
  context.save();
  context.beginPath();
  context.rect(0, 0, plot, height);
  context.clip();
  /** One half wave folded onto the other, as an area down to the lower edge. */
  const area = (size: (i: number) => number, color: string, alpha: number) => {
    context.beginPath();
    context.moveTo(0, height);
    for (let i = Math.floor(first) - 1; i <= first + frames + 1; i++) {
      const value = size(i);
      context.lineTo(((i - first) / frames) * plot, Math.min(height + 4, y(value)));
    }
    context.lineTo(plot, height);
    context.closePath();
    context.fillStyle = color;
    context.globalAlpha = alpha;
    context.fill();
    context.globalAlpha = 1;
  };
  area((i) => Math.abs(before[i] ?? 0) * input, palette.copper, 0.85);
  area((i) => Math.abs(after[i] ?? 0) / output, palette.raised, 1);
  area((i) => Math.abs(after[i] ?? 0) / output, palette.patina, 0.55);
  context.restore();
  context.fillStyle = palette.ink;
  context.fillRect(0, middle - 0.75, plot, 1.5);
  context.textAlign = 'right';
  context.fillText(`ceiling ${figure(settings.ceilingDbfs)} dBFS`, plot - 6, middle - 5);
  const lines = [1, 0.5, -0.5, -1].map((share) => share * heightDb);
  const place = (db: number) => y(ceiling * amplitude(db));
  drawLevelAxis(surface, palette, lines, place, {
    left: 0,
    right: plot,
    figures: 'right',
    gap: 4,
    text: (db) => change(db),
  });
  context.textAlign = 'left';
  context.fillText(`${spanMs} ms`, 8, height - 6);
  if (before.length === 0) {
    context.textAlign = 'center';
    context.fillText(playing ? '' : 'Not measured yet', plot / 2, height / 4);
  }
  // Meters of what goes in and comes out, around the ceiling, which stands in the middle here too.
  const bars: [string, number, string][] = [
    ['in', peaks[0] * input, palette.copper],
    ['out', peaks[1] / output, palette.patina],
  ];
  bars.forEach(([name, size, color], i) => {
    const x = width - METERS + 8 + i * 34;
    const db = decibels(size / ceiling);
    const top = middle - (Math.max(-METER_DB, Math.min(METER_DB, db)) / METER_DB) * (middle - 18);
    context.fillStyle = palette.sunken;
    context.fillRect(x, 18, 22, height - 36);
    context.fillStyle = color;
    context.fillRect(x, top, 22, height - 18 - top);
    context.fillStyle = palette.ink;
    context.fillRect(x - 3, middle - 0.75, 28, 1.5);
    context.textAlign = 'center';
    context.fillText(size > 0 ? figure(decibels(size)) : '–', x + 11, 13);
    context.fillStyle = palette.quiet;
    context.fillText(name, x + 11, height - 6);
  });
}
