'use client';

import { TRACE_FRAMES } from '../../../engine/measure/measurement';
import { useCanvas } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack, useTransport } from '../../track/context';
import { HISTORY } from '../../track/live-board';
import { drawCompression } from './draw-compression';

/** Gain reduction, and below it the peaks that went in and came out, over the last seconds; the whole track when not playing. */
export function CompressionHistory({ index }: { index: number }) {
  const { board } = useEditor();
  const palette = usePalette();
  const measurement = useMeasurements((state) => state.measurement);
  const playing = useTransport((state) => state.playing);
  const audio = useTrack((state) => state.audio);
  const canvas = useCanvas((surface) => {
    const readings = playing ? board.history : [];
    const values = playing
      ? readings.map(({ gainReduction }) => gainReduction[index] ?? 0)
      : Array.from(measurement?.gainReduction[index] ?? []);
    const slots = playing ? HISTORY : Math.max(values.length, Math.ceil((audio?.left.length ?? 1) / TRACE_FRAMES));
    const peaks = (joint: number) => readings.map(({ joints }) => joints[joint]?.samplePeakDbfs ?? null);
    const live = playing ? { into: peaks(index), out: peaks(index + 1) } : null;
    drawCompression(surface, { reductions: values, slots, live, measured: measurement !== null }, palette);
  }, playing);
  return (
    <canvas
      ref={canvas}
      style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
      aria-label="Gain reduction and peaks over time"
      role="img"
    />
  );
}
