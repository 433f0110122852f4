import { figure } from '../kit/format';
import type { Surface } from '../kit/use-canvas';
import type { Palette } from '../theme/palette';
import { FIGURE_FACE } from '../theme/theme';

const FLOOR_DB = -42;
const TOP_DB = 3;
const TICKS = [-40, -30, -20, -10, 0];
/** Pixels before the bars, for their names. */
const LEFT = 16;

/** Peaks of one channel in dB. */
export interface ChannelPeaks {
  sampleDbfs: number;
  trueDbtp: number;
  heldDbtp: number;
}

/** Sample peaks as bars, true peaks as paler ones, and what is held of those as marks; in `color`, or brick over 0 dBTP. */
export function drawOutputMeter(
  { context, width }: Surface,
  channels: readonly ChannelPeaks[],
  color: string,
  palette: Palette,
): void {
  const x = (db: number) =>
    LEFT + ((Math.min(TOP_DB, Math.max(FLOOR_DB, db)) - FLOOR_DB) / (TOP_DB - FLOOR_DB)) * (width - LEFT - 1);
  context.font = `12px ${FIGURE_FACE}`;
  channels.forEach(({ sampleDbfs, trueDbtp, heldDbtp }, channel) => {
    const y = 3 + channel * 13;
    context.fillStyle = palette.quiet;
    context.textAlign = 'left';
    context.fillText('LR'[channel], 0, y + 8);
    context.fillStyle = palette.hairline;
    context.fillRect(LEFT, y, width - LEFT - 1, 9);
    context.globalAlpha = 0.45;
    context.fillStyle = trueDbtp > 0 ? palette.brick : color;
    context.fillRect(LEFT, y + 2.5, x(trueDbtp) - LEFT, 4);
    context.globalAlpha = 1;
    context.fillStyle = color;
    context.fillRect(LEFT, y, x(sampleDbfs) - LEFT, 9);
    if (heldDbtp > FLOOR_DB) {
      context.fillStyle = heldDbtp > 0 ? palette.brick : palette.ink;
      context.fillRect(x(heldDbtp) - 1, y - 1, 2, 11);
    }
  });
  context.fillStyle = palette.quiet;
  context.textAlign = 'center';
  for (const db of TICKS) context.fillText(figure(db, 0), Math.min(width - 8, x(db)), 40);
}
