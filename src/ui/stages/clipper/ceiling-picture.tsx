'use client';

import RemoveIcon from '@mui/icons-material/Remove';
import AddIcon from '@mui/icons-material/Add';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import { useRef, type WheelEvent } from 'react';
import { z } from 'zod';
import type { Stage } from '../../../core/lane/schema';
import { amplitude, decibels } from '../../../core/signal/decibels';
import { outputGainDb } from '../../../core/stages/clipper/settings';
import { useCanvas } from '../../kit/use-canvas';
import { change, figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack, useTransport } from '../../track/context';
import { liveWindow, mostFrames } from '../distortion/live-window';
import { remembered } from '../../kit/remembered';

/** Milliseconds across the picture, and how many dB the middle stands from its upper edge. */
const SPANS_MS = [1, 2, 5, 10, 20, 50, 100];
const HEIGHTS_DB = [0.5, 1, 2, 3, 6];
const METER_DB = 12;
const METERS = 74;
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
  const sampleRate = useTrack((state) => state.audio?.sampleRate ?? 44100);
  const excerpt = useMeasurements((state) => state.measurement?.distortions[index]?.excerpt);
  const view = useCeilingView();
  const { settings } = stage;
  const input = amplitude(settings.inputGainDb);
  const output = amplitude(outputGainDb(settings));
  const ceiling = amplitude(settings.ceilingDbfs);
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

  const canvas = useCanvas(({ context, width, height }) => {
    const { before, after, at } = source();
    const plot = width - METERS - 44;
    const middle = height / 2;
    const reach = ceiling * (amplitude(HEIGHTS_DB[view.height]) - 1);
    const y = (size: number) => middle - ((size - ceiling) / reach) * (middle - 12);
    const frames = (SPANS_MS[view.span] / 1000) * sampleRate;
    const first = at - frames / 2;
    context.font = `10.5px ${FIGURE_FACE}`;
    context.save();
    context.beginPath();
    context.rect(0, 0, plot, height);
    context.clip();
    /** One half wave folded onto the other, as an area down to the lower edge. */
    const area = (size: (i: number) => number, color: string, alpha: number) => {
      context.beginPath();
      context.moveTo(0, height);
      for (let i = Math.floor(first) - 1; i <= first + frames + 1; i++) {
        const value = size(i);
        context.lineTo(((i - first) / frames) * plot, Math.min(height + 4, y(value)));
      }
      context.lineTo(plot, height);
      context.closePath();
      context.fillStyle = color;
      context.globalAlpha = alpha;
      context.fill();
      context.globalAlpha = 1;
    };
    area((i) => Math.abs(before[i] ?? 0) * input, palette.copper, 0.85);
    area((i) => Math.abs(after[i] ?? 0) / output, palette.raised, 1);
    area((i) => Math.abs(after[i] ?? 0) / output, palette.patina, 0.55);
    context.restore();
    context.fillStyle = palette.ink;
    context.fillRect(0, middle - 0.75, plot, 1.5);
    context.textAlign = 'right';
    context.fillText(`ceiling ${figure(settings.ceilingDbfs)} dBFS`, plot - 6, middle - 5);
    context.textAlign = 'left';
    for (const db of [1, 0.5, -0.5, -1].map((share) => share * HEIGHTS_DB[view.height])) {
      const line = y(ceiling * amplitude(db));
      context.fillStyle = palette.hairline;
      context.fillRect(0, line, plot, 1);
      context.fillStyle = palette.quiet;
      context.fillText(change(db), plot + 4, line + 3.5);
    }
    context.textAlign = 'left';
    context.fillText(`${SPANS_MS[view.span]} ms`, 8, height - 6);
    if (before.length === 0) {
      context.textAlign = 'center';
      context.fillText(playing ? '' : 'Not measured yet', plot / 2, height / 4);
    }
    // Meters of what goes in and comes out, around the ceiling, which stands in the middle here too.
    const joints = board.latest?.joints;
    const level = (joint: number, gain: number) =>
      playing
        ? amplitude(joints?.[joint]?.samplePeakDbfs ?? -Infinity) * gain
        : highest(joint === index ? before : after).peak * gain;
    const bars: [string, number, string][] = [
      ['in', level(index, input), palette.copper],
      ['out', level(index + 1, 1 / output), palette.patina],
    ];
    bars.forEach(([name, size, color], i) => {
      const x = width - METERS + 8 + i * 34;
      const db = decibels(size / ceiling);
      const top = middle - (Math.max(-METER_DB, Math.min(METER_DB, db)) / METER_DB) * (middle - 18);
      context.fillStyle = palette.sunken;
      context.fillRect(x, 18, 22, height - 36);
      context.fillStyle = color;
      context.fillRect(x, top, 22, height - 18 - top);
      context.fillStyle = palette.ink;
      context.fillRect(x - 3, middle - 0.75, 28, 1.5);
      context.textAlign = 'center';
      context.fillText(size > 0 ? figure(decibels(size)) : '–', x + 11, 13);
      context.fillStyle = palette.quiet;
      context.fillText(name, x + 11, height - 6);
    });
  }, playing);

  const onWheel = (event: WheelEvent) =>
    zoom(event.shiftKey ? 'span' : 'height', Math.sign(event.deltaY || event.deltaX));
  const button = (name: string, which: 'span' | 'height', by: number) => (
    <Tooltip title={`${name} (${which === 'span' ? 'Shift and ' : ''}wheel)`}>
      <IconButton aria-label={name} size="small" sx={{ p: 0.25 }} onClick={() => zoom(which, by)}>
        {by < 0 ? <AddIcon sx={{ fontSize: 15 }} /> : <RemoveIcon sx={{ fontSize: 15 }} />}
      </IconButton>
    </Tooltip>
  );
  return (
    <Box sx={{ position: 'relative', height: '100%' }} onWheel={onWheel}>
      <canvas
        ref={canvas}
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
        aria-label="The waveform around the ceiling"
        role="img"
      />
      <Box
        sx={{
          position: 'absolute',
          left: 8,
          top: 2,
          display: 'flex',
          alignItems: 'center',
          fontSize: 11,
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

/** Largest size in a wave, and where it is. */
function highest(x: Float32Array): { peak: number; at: number } {
  let [peak, at] = [0, 0];
  for (let i = 0; i < x.length; i++) {
    const size = Math.abs(x[i]);
    if (size > peak) [peak, at] = [size, i];
  }
  return { peak, at };
}
