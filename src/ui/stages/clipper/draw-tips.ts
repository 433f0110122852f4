import type { Tip, TipsReading } from '../../../core/measure/tips';
import { amplitude, decibels } from '../../../core/signal/decibels';
import { outputGainDb, type ClipperSettings } from '../../../core/stages/clipper/settings';
import { drawLevelAxis, FIGURE_FONT } from '../../kit/axes';
import { change, count, figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';

/** dB that the meters show around the ceiling, and the pixels they take. */
const METER_DB = 12;
const METERS = 74;

/** The highest tips at the ceiling of a clipper. */
export interface TipsPicture {
  /** Null before anything is known. */
  tips: TipsReading | null;
  /** Highest sample before and after the stage. */
  peaks: readonly [into: number, out: number];
  settings: ClipperSettings;
  /** Which stretch the tips are of, in words. */
  when: string;
  /** dB from the ceiling, in the middle, to the upper edge. */
  heightDb: number;
  sampleRate: number;
}

/** "24 of 312 tips over the ceiling, the longest 7 samples (0.16 ms)" */
export function tipsWords({ count: over, longestFrames, highest }: TipsReading, sampleRate: number): string {
  if (over === 0) return highest.length > 0 ? 'no tip reaches the ceiling' : 'silence';
  const shown = highest.length < over ? `${highest.length} of ` : '';
  const ms = figure((1000 * longestFrames) / sampleRate, 2);
  return `${shown}${count(over, 'tip')} over the ceiling, the longest ${count(longestFrames, 'sample')} (${ms} ms)`;
}

/**
 * The highest tips laid over each other, centred on their tops, with the ceiling in the middle: what passes in patina,
 * what is cut in copper. And meters of what goes in and comes out.
 */
export function drawTips(
  surface: Surface,
  { tips, peaks, settings, when, heightDb, sampleRate }: TipsPicture,
  palette: Palette,
): void {
  const { context, width, height } = surface;
  const input = amplitude(settings.inputGainDb);
  const output = amplitude(outputGainDb(settings));
  const ceiling = amplitude(settings.ceilingDbfs);
  const plot = width - METERS - 44;
  // Below it the picture is said in words.
  const body = height - 18;
  const middle = body / 2;
  const reach = ceiling * (amplitude(heightDb) - 1);
  const y = (size: number) => middle - ((size - ceiling) / reach) * (middle - 12);
  context.font = FIGURE_FONT;
  context.save();
  context.beginPath();
  context.rect(0, 0, plot, body);
  context.clip();
  const x = (tip: Tip, i: number) => (i / (tip.before.length - 1)) * plot;
  const edge = (tip: Tip, size: (i: number) => number) => {
    for (let i = 0; i < tip.before.length; i++) context.lineTo(x(tip, i), Math.min(body + 4, y(size(i))));
  };
  const highest = tips?.highest ?? [];
  const alpha = Math.max(0.08, 1 / Math.max(1, highest.length));
  for (const tip of highest) {
    // Between what came and what is left, down to where the two are one.
    context.beginPath();
    edge(tip, (i) => tip.before[i] * input);
    for (let i = tip.before.length - 1; i >= 0; i--)
      context.lineTo(x(tip, i), Math.min(body + 4, y(tip.after[i] / output)));
    context.closePath();
    context.fillStyle = palette.copper;
    context.globalAlpha = alpha;
    context.fill();
    context.globalAlpha = 0.55;
    context.strokeStyle = palette.copper;
    context.lineWidth = 1;
    context.beginPath();
    edge(tip, (i) => tip.before[i] * input);
    context.stroke();
    context.strokeStyle = palette.patina;
    context.lineWidth = 1.4;
    context.beginPath();
    edge(tip, (i) => tip.after[i] / output);
    context.stroke();
    context.globalAlpha = 1;
  }
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
  context.fillStyle = palette.ink;
  if (tips) context.fillText(`${when}: ${tipsWords(tips, sampleRate)}`, 8, height - 5);
  else {
    context.textAlign = 'center';
    context.fillText('Not measured yet', plot / 2, body / 4);
  }
  drawMeters(surface, body, peaks[0] * input, peaks[1] / output, ceiling, palette);
}

/** Peaks that go in and come out, around the ceiling, which stands in the middle here too. */
function drawMeters(
  { context, width, height }: Surface,
  body: number,
  into: number,
  out: number,
  ceiling: number,
  palette: Palette,
) {
  const middle = body / 2;
  const bars: [string, number, string][] = [
    ['in', into, palette.copper],
    ['out', out, palette.patina],
  ];
  bars.forEach(([name, size, color], i) => {
    const x = width - METERS + 8 + i * 34;
    const db = decibels(size / ceiling);
    const top = middle - (Math.max(-METER_DB, Math.min(METER_DB, db)) / METER_DB) * (middle - 18);
    context.fillStyle = palette.sunken;
    context.fillRect(x, 18, 22, body - 18);
    context.fillStyle = color;
    context.fillRect(x, top, 22, body - top);
    context.fillStyle = palette.ink;
    context.fillRect(x - 3, middle - 0.75, 28, 1.5);
    context.textAlign = 'center';
    context.fillText(size > 0 ? figure(decibels(size)) : '–', x + 11, 13);
    context.fillStyle = palette.quiet;
    context.fillText(name, x + 11, height - 5);
  });
}
