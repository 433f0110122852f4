import { scaleUtc } from 'd3-scale';
import type { ProgrammeReading } from '../../../engine/measure/measurement';
import type { StereoBuffer } from '../../../engine/sources/places';
import { FIGURE_FONT } from '../../kit/axes';
import { clock, figure } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import { FIGURE_FACE } from '../../theme/theme';
import { envelope } from './envelope';
import type { View } from './view';

/** Room for the time axis below, and for labels above. */
export const AXIS = 16;
const TOP = 12;
const PIXELS_PER_TICK = 90;
const LOUDNESS_FLOOR = -40;
/** Loudness in LUFS that is named at the left. */
const LOUDNESS_LINES = [-10, -20, -30];

/** What is known of a programme: its reading, its samples, or both. */
export interface DrawnProgramme {
  reading: ProgrammeReading | null;
  samples: StereoBuffer | null;
}

/** Draws mix, master, short-term loudness, overs and the time axis: what does not move. */
export function drawProgramme(
  surface: Surface,
  view: View,
  sampleRate: number,
  mix: DrawnProgramme,
  master: DrawnProgramme,
  palette: Palette,
) {
  const { context, width, height } = surface;
  const body = height - AXIS - TOP;
  const middle = TOP + body / 2;
  const y = (value: number) => middle - (Math.max(-1.05, Math.min(1.05, value)) * body) / 2.1;
  const columns = Math.round(width);
  const second = (seconds: number) => ((seconds * sampleRate - view.start) / (view.end - view.start)) * width;

  const path = (low: Float32Array, high: Float32Array) => {
    context.beginPath();
    for (let x = 0; x < columns; x++) context.lineTo(x, y(high[x]));
    for (let x = columns - 1; x >= 0; x--) context.lineTo(x, y(low[x]));
    context.closePath();
  };
  const inside = envelope(view, columns, master);
  if (inside) {
    path(...inside);
    context.fillStyle = palette.patina;
    context.globalAlpha = 0.72;
    context.fill();
    context.globalAlpha = 1;
  }
  const outline = envelope(view, columns, mix);
  context.strokeStyle = palette.copper;
  context.lineWidth = 1.1;
  for (const edge of outline ?? []) {
    context.beginPath();
    for (let x = 0; x < columns; x++) context.lineTo(x, y(edge[x]));
    context.stroke();
  }

  if (master.reading) {
    const { shortTerm, overs } = master.reading;
    context.beginPath();
    context.strokeStyle = palette.ink;
    context.lineWidth = 1.4;
    let last: number | null = null;
    shortTerm.forEach((lufs, i) => {
      if (lufs === -Infinity) return;
      last = TOP + body * Math.min(1, Math.max(0, lufs / LOUDNESS_FLOOR));
      context.lineTo(second((i + 1) / 10), last);
    });
    context.stroke();
    if (last !== null) {
      context.font = `12px ${FIGURE_FACE}`;
      context.textAlign = 'right';
      context.fillStyle = palette.ink;
      context.fillText('short-term LUFS', width - 6, Math.min(height - AXIS - 4, (last as number) - 5));
    }
    context.font = FIGURE_FONT;
    context.textAlign = 'left';
    for (const lufs of LOUDNESS_LINES) {
      const level = TOP + (body * lufs) / LOUDNESS_FLOOR;
      // On paper of its own, so that it can be read over the music.
      context.fillStyle = palette.paper;
      context.globalAlpha = 0.8;
      context.fillRect(0, level - 7, 30, 14);
      context.globalAlpha = 1;
      context.fillStyle = palette.ink;
      context.fillRect(0, level, 4, 1);
      context.fillText(figure(lufs, 0), 6, level + 4);
    }
    context.fillStyle = palette.brick;
    for (const over of overs) context.fillRect(second(over), 0, 1.5, 9);
  }

  context.font = `12px ${FIGURE_FACE}`;
  context.textAlign = 'center';
  context.fillStyle = palette.quiet;
  const seconds = (frame: number) => new Date((1000 * frame) / sampleRate);
  const axis = scaleUtc([seconds(view.start), seconds(view.end)], [0, width]);
  const ticks = axis.ticks(width / PIXELS_PER_TICK);
  const step = ticks.length > 1 ? (ticks[1].getTime() - ticks[0].getTime()) / 1000 : 1;
  const decimals = step >= 1 ? 0 : step >= 0.1 ? 1 : step >= 0.01 ? 2 : 3;
  for (const tick of ticks) {
    const x = axis(tick);
    if (x > 18 && x < width - 18) context.fillText(clock(tick.getTime() / 1000, decimals), x, height - 4);
  }
}
