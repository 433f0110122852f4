'use client';

import RemoveIcon from '@mui/icons-material/Remove';
import AddIcon from '@mui/icons-material/Add';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import { useMemo } from 'react';
import { z } from 'zod';
import type { Stage } from '../../../core/lane/schema';
import { amplitude } from '../../../core/signal/decibels';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useMixLength, useTransport } from '../../track/context';
import { remembered } from '../../kit/remembered';
import { drawTips } from './draw-tips';
import { LiveTips } from './live-tips';

/** How many dB the middle stands from the upper edge. */
const HEIGHTS_DB = [0.5, 1, 2, 3, 6];

export const useTipsView = remembered(
  'clipper-picture',
  z.object({
    height: z
      .number()
      .int()
      .min(0)
      .max(HEIGHTS_DB.length - 1)
      .default(3),
    /** Share of the picture that the tips have, in percent. */
    share: z.number().min(30).max(80).default(60),
  }),
);

function zoom(by: number): void {
  const { height } = useTipsView.getState();
  useTipsView.setState({ height: Math.max(0, Math.min(HEIGHTS_DB.length - 1, height + by)) });
}

/** The highest tips around the ceiling, which stands in the middle: what passes in patina, what is cut in copper. */
export function TipsPicture({ stage, index }: { stage: Extract<Stage, { kind: 'clipper' }>; index: number }) {
  const { taps, board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const { sampleRate } = useMixLength();
  const measurement = useMeasurements((state) => state.measurement);
  const { height } = useTipsView();
  const { settings } = stage;
  const ceiling = amplitude(settings.ceilingDbfs - settings.inputGainDb);
  const live = useMemo(
    () => (playing ? new LiveTips(taps, sampleRate, ceiling) : null),
    [playing, taps, sampleRate, ceiling],
  );

  const draw: Draw = (surface) => {
    const { latest } = board;
    const tips = live ? live.take(latest?.tapLead ?? 0) : (measurement?.distortions[index]?.tips ?? null);
    const peak = (joint: number) =>
      amplitude((live ? latest?.joints[joint] : measurement?.joints[joint])?.samplePeakDbfs ?? -Infinity);
    const peaks: [number, number] = [peak(index), peak(index + 1)];
    const when = live ? 'last seconds' : 'whole track';
    drawTips(surface, { tips, peaks, settings, when, heightDb: HEIGHTS_DB[height], sampleRate }, palette);
  };

  const button = (name: string, by: number) => (
    <Tooltip title={`${name} (wheel)`}>
      <IconButton aria-label={name} size="small" sx={{ width: 24, height: 24 }} onClick={() => zoom(by)}>
        {by < 0 ? <AddIcon sx={{ fontSize: 15 }} /> : <RemoveIcon sx={{ fontSize: 15 }} />}
      </IconButton>
    </Tooltip>
  );
  return (
    <Box sx={{ position: 'relative', height: '100%' }} onWheel={({ deltaY }) => zoom(Math.sign(deltaY))}>
      <Picture label="The highest tips around the ceiling" moving={playing} draw={draw} />
      <Box
        sx={{
          position: 'absolute',
          left: 8,
          top: 2,
          display: 'flex',
          alignItems: 'center',
          fontSize: 12,
          color: 'text.secondary',
          bgcolor: 'background.paper',
          borderRadius: 1,
          px: 0.5,
          opacity: 0.92,
        }}
      >
        level {button('Zoom in on level', -1)}
        {button('Zoom out on level', 1)}
      </Box>
    </Box>
  );
}
