'use client';

import { TRACE_FRAMES } from '../../../engine/measure/measurement';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useMixLength, useTransport } from '../../track/context';
import { HISTORY } from '../../track/live-board';
import { drawReduction } from './reduction-trace';

/** Gain reduction over the last seconds while playing, over the whole track when not; peaks held as steps. */
export function ReductionHistory({ index, idle }: { index: number; idle: string }) {
  const { board } = useEditor();
  const palette = usePalette();
  const measurement = useMeasurements((state) => state.measurement);
  const playing = useTransport((state) => state.playing);
  const { frames } = useMixLength();
  const draw: Draw = (surface) => {
    const { context, width, height } = surface;
    const values = playing
      ? board.history.map(({ gainReduction }) => gainReduction[index] ?? 0)
      : Array.from(measurement?.gainReduction[index] ?? []);
    const slots = playing ? HISTORY : Math.max(values.length, Math.ceil(frames / TRACE_FRAMES));
    const area = { left: 16, top: 10, width: width - 60, height: height - 30, slots };
    const most = drawReduction(surface, palette, area, values);
    context.fillStyle = values.length > 0 ? palette.ink : palette.quiet;
    context.textAlign = values.length > 0 ? 'left' : 'center';
    const when = playing ? 'in the last seconds' : 'in the whole track';
    if (values.length > 0) context.fillText(`most ${when} ${figure(-most)} dB`, 20, height - 6);
    else context.fillText(measurement ? idle : 'Not measured yet', width / 2, height / 2);
  };
  return <Picture label="Gain reduction" moving={playing} draw={draw} />;
}
