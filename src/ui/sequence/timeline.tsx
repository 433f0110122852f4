'use client';

import Box from '@mui/material/Box';
import { OUTLINE_COLUMNS } from '../../core/measure/master-summary';
import { FIGURE_FONT } from '../kit/axes';
import { clock, figure } from '../kit/format';
import { Picture } from '../kit/picture';
import type { Surface } from '../kit/use-canvas';
import { TEXT_FACE } from '../theme/theme';
import type { Palette } from '../theme/palette';
import { usePalette } from '../theme/use-palette';
import { SEQUENCE_RATE, totalSeconds, type LaidOutTrack } from './sequence';

const TITLES = 18;
const AXIS = 16;
/** LUFS at the top and at the bottom of the loudness line. */
const LOUDEST = 0;
const QUIETEST = -40;
const NAMED = [-10, -20, -30];
const LEFT = 30;

/** Draws a track's waveform and its short-term loudness between two places. */
function drawTrack(
  { context }: Surface,
  { track, shown }: LaidOutTrack,
  [from, to]: readonly [number, number],
  y: { wave: (value: number) => number; loudness: (lufs: number) => number },
  palette: Palette,
): void {
  const summary = track.master?.summary;
  if (!summary) return;
  const place = (share: number) => from + ((share - shown.from) / (shown.to - shown.from)) * (to - from);
  const { master } = summary.outlines;
  const column = (share: number) => Math.max(0, Math.min(OUTLINE_COLUMNS, Math.round(share * OUTLINE_COLUMNS)));
  const [first, last] = [column(shown.from), column(shown.to)];
  context.beginPath();
  for (let i = first; i < last; i++) context.lineTo(place((i + 0.5) / OUTLINE_COLUMNS), y.wave(master[2 * i + 1]));
  for (let i = last - 1; i >= first; i--) context.lineTo(place((i + 0.5) / OUTLINE_COLUMNS), y.wave(master[2 * i]));
  context.closePath();
  context.fillStyle = palette.patina;
  context.globalAlpha = 0.72;
  context.fill();
  context.globalAlpha = 1;
  context.beginPath();
  summary.curve.forEach((lufs, i) => {
    const share = (i + 1) / summary.curve.length;
    if (lufs !== null && share >= shown.from && share <= shown.to) context.lineTo(place(share), y.loudness(lufs));
  });
  context.strokeStyle = palette.ink;
  context.lineWidth = 1.4;
  context.stroke();
}

/** The whole release on one line: waveforms of the masters, their short-term loudness, and the joints between them. */
export function Timeline({ laidOut, playing }: { laidOut: LaidOutTrack[]; playing: string | null }) {
  const palette = usePalette();
  const seconds = totalSeconds(laidOut);
  const words = laidOut.map(
    ({ track, place }) => `${track.position} ${track.title} from ${clock(place.start / SEQUENCE_RATE)}`,
  );
  const draw = (surface: Surface) => {
    const { context, width, height } = surface;
    const body = height - TITLES - AXIS;
    const x = (frame: number) => LEFT + (frame / SEQUENCE_RATE / Math.max(seconds, 1e-9)) * (width - LEFT);
    const middle = TITLES + body / 2;
    const y = {
      wave: (value: number) => middle - Math.max(-1, Math.min(1, value)) * (body / 2),
      loudness: (lufs: number) =>
        TITLES + (body * (LOUDEST - Math.max(QUIETEST, Math.min(LOUDEST, lufs)))) / (LOUDEST - QUIETEST),
    };
    context.font = FIGURE_FONT;
    context.textAlign = 'left';
    for (const lufs of NAMED) {
      context.fillStyle = palette.hairline;
      context.fillRect(LEFT, y.loudness(lufs), width - LEFT, 1);
      context.fillStyle = palette.quiet;
      context.fillText(figure(lufs, 0), 2, y.loudness(lufs) + 4);
    }
    for (const each of laidOut) {
      const { track, place } = each;
      const [from, to] = [x(place.start), x(place.end)] as const;
      if (track.id === playing) {
        context.fillStyle = palette.ochre;
        context.globalAlpha = 0.25;
        context.fillRect(from - 12, TITLES, 24, body);
        context.globalAlpha = 1;
      }
      drawTrack(surface, each, [from, to], y, palette);
      context.fillStyle = palette.ink;
      context.fillRect(from, 0, 1, height - AXIS);
      context.font = `600 12px ${TEXT_FACE}`;
      context.textAlign = 'left';
      context.save();
      context.beginPath();
      context.rect(from, 0, Math.max(0, to - from - 4), TITLES);
      context.clip();
      context.fillText(`${track.position} · ${track.title}`, from + 4, 12);
      context.restore();
      context.font = FIGURE_FONT;
      context.fillStyle = palette.quiet;
      if (to - from > 44) context.fillText(clock(place.start / SEQUENCE_RATE), from + 4, height - 4);
    }
  };
  return (
    <Box sx={{ position: 'relative', height: 170, border: 1, borderColor: 'divider', bgcolor: 'background.paper' }}>
      <Picture label={`The release, ${clock(seconds)}: ${words.join('; ')}`} draw={draw} />
    </Box>
  );
}
