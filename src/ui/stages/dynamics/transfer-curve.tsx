'use client';

import Box from '@mui/material/Box';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useTransport } from '../../track/context';
import { drawTransferCurve } from './draw-transfer-curve';

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
  const draw: Draw = (surface) =>
    drawTransferCurve(surface, { output, thresholds, now: playing ? live() : null }, palette);
  return (
    <Box sx={{ position: 'relative', height: '100%' }}>
      <Picture label="Level out against level in" moving={playing} draw={draw} />
    </Box>
  );
}
