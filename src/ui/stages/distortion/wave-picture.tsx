'use client';

import { useRef } from 'react';
import { useCanvas } from '../../kit/use-canvas';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack, useTransport } from '../../track/context';
import { liveWindow, type LiveWindow } from './live-window';

const SPAN_MS = 8;
/** Frames that are searched for a rising zero, so that the wave stands still. */
const SEARCH = 2048;
/** Drawings for which the same piece stays. */
const STAY = 8;

/** The wave before a stage in copper and after it in patina. */
export function WavePicture({ index }: { index: number }) {
  const { taps, board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const sampleRate = useTrack((state) => state.audio?.sampleRate ?? 44100);
  const excerpt = useMeasurements((state) => state.measurement?.distortions[index]?.excerpt);
  const shown = useRef<{ window: LiveWindow; age: number } | null>(null);
  const canvas = useCanvas(({ context, width, height }) => {
    const frames = Math.round((SPAN_MS / 1000) * sampleRate);
    if (playing && (!shown.current || ++shown.current.age > STAY)) {
      const window = liveWindow(taps, 'left', frames + SEARCH, board.latest?.tapLead ?? 0);
      shown.current = { window, age: 0 };
    }
    const source = playing ? shown.current?.window : excerpt;
    context.font = `10.5px ${FIGURE_FACE}`;
    context.fillStyle = palette.hairline;
    context.fillRect(0, height / 2, width, 1);
    if (!source || source.before.length === 0) {
      context.fillStyle = palette.quiet;
      context.textAlign = 'center';
      return context.fillText('Not measured yet', width / 2, height / 2 - 6);
    }
    const { before, after } = source;
    const start = begin(before, frames);
    let most = 0.05;
    for (let i = start; i < start + frames; i++) most = Math.max(most, Math.abs(before[i]), Math.abs(after[i]));
    const line = (of: Float32Array, color: string, thickness: number) => {
      context.strokeStyle = color;
      context.lineWidth = thickness;
      context.beginPath();
      for (let i = 0; i < frames; i++)
        context.lineTo((i / frames) * width, height / 2 - (of[start + i] / most) * (height / 2 - 6));
      context.stroke();
    };
    line(before, palette.copper, 1.4);
    line(after, palette.patina, 1.8);
    context.fillStyle = palette.quiet;
    context.textAlign = 'left';
    context.fillText(`${SPAN_MS} ms`, 8, height - 5);
  }, playing);
  return (
    <canvas
      ref={canvas}
      style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
      aria-label="The waveform before and after"
      role="img"
    />
  );
}

/** Where the loudest piece of so many frames begins that starts at a rising zero. */
function begin(x: Float32Array, frames: number): number {
  let [best, most] = [0, -1];
  for (let i = 1; i + frames < x.length; i++) {
    if (!(x[i - 1] <= 0 && x[i] > 0)) continue;
    let peak = 0;
    for (let k = i; k < i + frames; k += 4) peak = Math.max(peak, Math.abs(x[k]));
    if (peak > most) [best, most] = [i, peak];
  }
  return best;
}
