'use client';

import { TRACE_FRAMES } from '../../../engine/measure/measurement';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useMixLength, useTransport } from '../../track/context';
import { HISTORY } from '../../track/live-board';
import { drawCompression } from './draw-compression';

/** Gain reduction, and below it the peaks that went in and came out, over the last seconds; the whole track when not playing. */
export function CompressionHistory({ index }: { index: number }) {
  const { board } = useEditor();
  const palette = usePalette();
  const measurement = useMeasurements((state) => state.measurement);
  const playing = useTransport((state) => state.playing);
  const { frames } = useMixLength();
  const draw: Draw = (surface) => {
    const readings = playing ? board.history : [];
    const values = playing
      ? readings.map(({ gainReduction }) => gainReduction[index] ?? 0)
      : Array.from(measurement?.gainReduction[index] ?? []);
    const slots = playing ? HISTORY : Math.max(values.length, Math.ceil(frames / TRACE_FRAMES));
    const peaks = (joint: number) => readings.map(({ joints }) => joints[joint]?.samplePeakDbfs ?? null);
    const live = playing ? { into: peaks(index), out: peaks(index + 1) } : null;
    drawCompression(surface, { reductions: values, slots, live, measured: measurement !== null }, palette);
  };
  return <Picture label="Gain reduction and peaks over time" moving={playing} draw={draw} />;
}
