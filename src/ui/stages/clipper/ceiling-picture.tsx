'use client';

import RemoveIcon from '@mui/icons-material/Remove';
import AddIcon from '@mui/icons-material/Add';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import { useRef, type WheelEvent } from 'react';
import { z } from 'zod';
import type { Stage } from '../../../core/lane/schema';
import { amplitude } from '../../../core/signal/decibels';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useMixLength, useTransport } from '../../track/context';
import { liveWindow, mostFrames } from '../distortion/live-window';
import { remembered } from '../../kit/remembered';
import { drawCeiling, highest } from './draw-ceiling';

/** Milliseconds across the picture, and how many dB the middle stands from its upper edge. */
const SPANS_MS = [1, 2, 5, 10, 20, 50, 100];
const HEIGHTS_DB = [0.5, 1, 2, 3, 6];
/** Drawings for which the highest peak is kept before a lower one takes its place. */
const HOLD = 40;

export const useCeilingView = remembered(
  'clipper-picture',
  z.object({
    span: z
      .number()
      .int()
      .min(0)
      .max(SPANS_MS.length - 1)
      .default(3),
    height: z
      .number()
      .int()
      .min(0)
      .max(HEIGHTS_DB.length - 1)
      .default(3),
    /** Share of the picture that the wave has, in percent. */
    share: z.number().min(30).max(80).default(60),
  }),
);

function zoom(which: 'span' | 'height', by: number): void {
  const state = useCeilingView.getState();
  const last = (which === 'span' ? SPANS_MS : HEIGHTS_DB).length - 1;
  useCeilingView.setState({ [which]: Math.max(0, Math.min(last, state[which] + by)) });
}

/** The waveform around the ceiling, which stands in the middle: what passes in patina, what is cut in copper above it. */
export function CeilingPicture({ stage, index }: { stage: Extract<Stage, { kind: 'clipper' }>; index: number }) {
  const { taps, board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const { sampleRate } = useMixLength();
  const excerpt = useMeasurements((state) => state.measurement?.distortions[index]?.excerpt);
  const view = useCeilingView();
  const { settings } = stage;
  const shown = useRef({ before: new Float32Array(0), after: new Float32Array(0), at: 0, peak: 0, age: 0 });

  /** What is drawn: while playing the highest peak of late, else where the measurement found the most to cut. */
  const source = () => {
    const held = shown.current;
    if (!playing) {
      const { before, after } = excerpt ?? { before: new Float32Array(0), after: new Float32Array(0) };
      return { before, after, at: highest(before).at };
    }
    const lead = board.latest?.tapLead ?? 0;
    const frames = Math.min(mostFrames(lead), Math.ceil(sampleRate * 0.16));
    const live = liveWindow(taps, 'left', frames, lead);
    const found = highest(live.before);
    if (found.peak >= held.peak || ++held.age > HOLD)
      Object.assign(held, { before: live.before, after: live.after, at: found.at, peak: found.peak, age: 0 });
    return held;
  };

  const draw: Draw = (surface) => {
    const wave = source();
    const joints = board.latest?.joints;
    const peak = (joint: number, of: Float32Array) =>
      playing ? amplitude(joints?.[joint]?.samplePeakDbfs ?? -Infinity) : highest(of).peak;
    const peaks: [number, number] = [peak(index, wave.before), peak(index + 1, wave.after)];
    const span = { heightDb: HEIGHTS_DB[view.height], spanMs: SPANS_MS[view.span], sampleRate };
    drawCeiling(surface, { wave, peaks, settings, playing, ...span }, palette);
  };

  const onWheel = (event: WheelEvent) =>
    zoom(event.shiftKey ? 'span' : 'height', Math.sign(event.deltaY || event.deltaX));
  const button = (name: string, which: 'span' | 'height', by: number) => (
    <Tooltip title={`${name} (${which === 'span' ? 'Shift and ' : ''}wheel)`}>
      <IconButton aria-label={name} size="small" sx={{ width: 24, height: 24 }} onClick={() => zoom(which, by)}>
        {by < 0 ? <AddIcon sx={{ fontSize: 15 }} /> : <RemoveIcon sx={{ fontSize: 15 }} />}
      </IconButton>
    </Tooltip>
  );
  return (
    <Box sx={{ position: 'relative', height: '100%' }} onWheel={onWheel}>
      <Picture label="The waveform around the ceiling" moving={playing} draw={draw} />
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
        level {button('Zoom in on level', 'height', -1)}
        {button('Zoom out on level', 'height', 1)}
        <Box sx={{ width: 8 }} />
        time {button('Zoom in on time', 'span', -1)}
        {button('Zoom out on time', 'span', 1)}
      </Box>
    </Box>
  );
}
