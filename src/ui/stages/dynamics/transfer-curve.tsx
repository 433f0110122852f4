'use client';

import Box from '@mui/material/Box';
import { useCanvas } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useTransport } from '../../track/context';

const FLOOR_DB = -60;
const LINES = [-48, -36, -24, -12, 0];
const LEFT = 34;
const BOTTOM = 20;

/** Level out against level in, in dBFS, with where the track is now. */
export function TransferCurve({
  output,
  live,
  thresholds,
}: {
  output: (levelDbfs: number) => number;
  /** Levels in and out now; null while nothing is known. */
  live: () => { into: number; out: number } | null;
  thresholds: number[];
}) {
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const canvas = useCanvas(({ context, width, height }) => {
    const side = Math.min(width - LEFT - 10, height - BOTTOM - 8);
    const x = (db: number) => LEFT + ((Math.max(FLOOR_DB, Math.min(0, db)) - FLOOR_DB) / -FLOOR_DB) * side;
    const y = (db: number) => 8 + (Math.max(FLOOR_DB, Math.min(6, db)) / FLOOR_DB) * side;
    context.font = `10.5px ${FIGURE_FACE}`;
    for (const db of LINES) {
      context.fillStyle = palette.hairline;
      context.fillRect(LEFT, y(db), side, 1);
      context.fillRect(x(db), 8, 1, side);
      context.fillStyle = palette.quiet;
      context.textAlign = 'right';
      context.fillText(figure(db, 0), LEFT - 6, y(db) + 3.5);
      context.textAlign = 'center';
      if (db % 24 === 0) context.fillText(figure(db, 0), x(db), 8 + side + 14);
    }
    context.save();
    context.beginPath();
    context.rect(LEFT, 4, side, side + 4);
    context.clip();
    context.strokeStyle = palette.hairline;
    context.setLineDash([3, 3]);
    context.beginPath();
    context.moveTo(x(FLOOR_DB), y(FLOOR_DB));
    context.lineTo(x(0), y(0));
    context.stroke();
    context.setLineDash([1.5, 3]);
    context.strokeStyle = palette.quiet;
    for (const threshold of thresholds) {
      context.beginPath();
      context.moveTo(x(threshold), 8);
      context.lineTo(x(threshold), 8 + side);
      context.stroke();
    }
    context.setLineDash([]);
    context.strokeStyle = palette.ink;
    context.lineWidth = 2.2;
    context.beginPath();
    for (let db = FLOOR_DB; db <= 0; db += 0.5) context.lineTo(x(db), y(output(db)));
    context.stroke();
    context.restore();
    const now = playing ? live() : null;
    if (now && now.into > FLOOR_DB) {
      context.fillStyle = palette.copper;
      context.fillRect(x(now.into) - 1, y(now.out), 2, 8 + side - y(now.out));
      context.fillStyle = palette.patina;
      context.fillRect(LEFT, y(now.out) - 1, x(now.into) - LEFT, 2);
      context.beginPath();
      context.arc(x(now.into), y(now.out), 4.5, 0, 2 * Math.PI);
      context.fillStyle = palette.ink;
      context.fill();
    }
  }, playing);
  return (
    <Box sx={{ position: 'relative', height: '100%' }}>
      <canvas
        ref={canvas}
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
        aria-label="Level out against level in"
        role="img"
      />
    </Box>
  );
}
