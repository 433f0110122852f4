import type { ProgrammeReading } from '../../../engine/measure/measurement';
import { clock } from '../../kit/format';
import type { Surface } from '../../kit/use-canvas';
import type { Palette } from '../../theme/palette';
import { FIGURE_FACE } from '../../theme/theme';
import { envelope } from '../programme/envelope';

/** Room for the time axis, between the two. */
const AXIS = 18;
const LOUDNESS_FLOOR = -40;
const SECONDS_PER_TICK = 10;

/**
 * Two masters on one time axis, like a river and its reflection: the first above the axis, the second below it. Bodies are
 * the higher of both sides of the wave, lines the short-term loudness.
 */
export function drawReflection(
  { context, width, height }: Surface,
  masters: readonly [ProgrammeReading | null, ProgrammeReading | null],
  frames: number,
  sampleRate: number,
  palette: Palette,
): void {
  const middle = height / 2;
  const room = middle - AXIS / 2;
  const columns = Math.round(width);
  masters.forEach((reading, i) => {
    if (!reading) return;
    const sign = i === 0 ? -1 : 1;
    const base = middle + (sign * AXIS) / 2;
    const drawn = envelope({ start: 0, end: frames }, columns, { reading, samples: null });
    context.fillStyle = palette.patina;
    context.globalAlpha = i === 0 ? 0.8 : 0.5;
    if (drawn) {
      const [low, high] = drawn;
      context.beginPath();
      context.moveTo(0, base);
      for (let x = 0; x < columns; x++) context.lineTo(x, base + sign * room * Math.min(1, Math.max(high[x], -low[x])));
      context.lineTo(columns, base);
      context.fill();
    }
    context.globalAlpha = 1;
    context.strokeStyle = palette.ink;
    context.lineWidth = 1.4;
    context.beginPath();
    reading.shortTerm.forEach((lufs, k) => {
      if (lufs === -Infinity) return;
      const x = ((((k + 1) / 10) * sampleRate) / frames) * width;
      context.lineTo(x, base + sign * room * Math.max(0, 1 - lufs / LOUDNESS_FLOOR));
    });
    context.stroke();
    context.fillStyle = palette.brick;
    for (const over of reading.overs)
      context.fillRect(((over * sampleRate) / frames) * width, i === 0 ? 0 : height - 8, 1.5, 8);
  });
  context.fillStyle = palette.quiet;
  context.font = `12px ${FIGURE_FACE}`;
  context.textAlign = 'center';
  for (let seconds = SECONDS_PER_TICK; seconds < frames / sampleRate; seconds += SECONDS_PER_TICK) {
    const x = ((seconds * sampleRate) / frames) * width;
    if (x > 20 && x < width - 20) context.fillText(clock(seconds, 0), x, middle + 4);
  }
}
