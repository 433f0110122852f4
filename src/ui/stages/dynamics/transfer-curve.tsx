'use client';

import Box from '@mui/material/Box';
import { useCanvas } from '../../kit/use-canvas';
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
  const canvas = useCanvas(
    (surface) => drawTransferCurve(surface, { output, thresholds, now: playing ? live() : null }, palette),
    playing,
  );
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
