'use client';

import { decibels } from '../../../core/signal/decibels';
import type { Stage } from '../../../core/lane/schema';
import { traceWithin } from '../../../engine/measure/measurement';
import { clock } from '../../kit/format';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useMixLength, useSelection, useTransport } from '../../track/context';
import { HISTORY } from '../../track/live-board';
import { drawLimiting } from './draw-limiting';

const inDb = (peaks: Float32Array, gainDb: number) => Float32Array.from(peaks, (peak) => decibels(peak) + gainDb);

/** What the limiter takes: of the last seconds while playing, else of what the programme shows of the track. */
export function LimitingPicture({ stage, index }: { stage: Extract<Stage, { kind: 'limiter' }>; index: number }) {
  const { board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const measurement = useMeasurements((state) => state.measurement);
  const view = useSelection((state) => state.view);
  const { sampleRate } = useMixLength();
  const { inputGainDb, ceilingDbtp, listenEven } = stage.settings;

  const live = () => {
    const { history } = board;
    // What is heard at the level of the input was lowered after the limiter.
    const loweredDb = listenEven ? inputGainDb : 0;
    return {
      into: history.map(({ joints }) => (joints[index]?.samplePeakDbfs ?? -Infinity) + inputGainDb),
      out: history.map(({ joints }) => (joints[index + 1]?.samplePeakDbfs ?? -Infinity) + loweredDb),
      reductions: history.map(({ gainReduction }) => gainReduction[index] ?? 0),
      slots: HISTORY,
      when: 'last seconds',
    };
  };
  const measured = () => {
    const peaks = measurement?.peaks[index];
    const span = view ?? undefined;
    const into = peaks ? inDb(traceWithin(peaks.before, span), inputGainDb) : new Float32Array(0);
    const trace = measurement?.gainReduction[index];
    return {
      into,
      out: peaks ? inDb(traceWithin(peaks.after, span), 0) : into,
      reductions: trace ? traceWithin(trace, span) : new Float32Array(into.length),
      slots: into.length,
      when: view ? `${clock(view.start / sampleRate)} to ${clock(view.end / sampleRate)}` : 'whole track',
    };
  };
  const draw: Draw = (surface) => {
    const empty = playing ? '' : measurement ? 'The limiter is off' : 'Not measured yet';
    drawLimiting(surface, { ...(playing ? live() : measured()), ceilingDb: ceilingDbtp, empty }, palette);
  };
  return <Picture label="Peaks against the ceiling, and gain reduction" moving={playing} draw={draw} />;
}
