'use client';

import { useRef } from 'react';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useMixLength, useTransport } from '../../track/context';
import { liveWindow, type LiveWindow } from './live-window';
import { drawWave, SPAN_MS } from './draw-wave';

/** Frames that are searched for a rising zero, so that the wave stands still. */
const SEARCH = 2048;
/** Drawings for which the same piece stays. */
const STAY = 8;

/** The wave before a stage in copper and after it in patina. */
export function WavePicture({ index }: { index: number }) {
  const { taps, board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const { sampleRate } = useMixLength();
  const excerpt = useMeasurements((state) => state.measurement?.distortions[index]?.excerpt);
  const shown = useRef<{ window: LiveWindow; age: number } | null>(null);
  const frames = Math.round((SPAN_MS / 1000) * sampleRate);
  const draw: Draw = (surface) => {
    if (playing && (!shown.current || ++shown.current.age > STAY)) {
      const window = liveWindow(taps, 'left', frames + SEARCH, board.latest?.tapLead ?? 0);
      shown.current = { window, age: 0 };
    }
    drawWave(surface, { wave: (playing ? shown.current?.window : excerpt) ?? null, frames }, palette);
  };
  return <Picture label="The waveform before and after" moving={playing} draw={draw} />;
}
