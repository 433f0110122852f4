'use client';

import { TRACE_FRAMES } from '../../../engine/measure/measurement';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useMixLength, useTransport } from '../../track/context';
import { HISTORY } from '../../track/live-board';
import { drawReduction } from '../dynamics/reduction-trace';

/** Gain reduction of each band side by side: the last seconds while playing, the whole track when not. */
export function BandHistories({ index, bands }: { index: number; bands: number }) {
  const { board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const traces = useMeasurements((state) => state.measurement?.bandReduction[index]);
  const { frames } = useMixLength();
  const draw: Draw = (surface) => {
    const { context, width, height } = surface;
    const each = (width - 16) / bands;
    for (let band = 0; band < bands; band++) {
      const values = playing
        ? board.history.map(({ bandReductions }) => bandReductions[band] ?? 0)
        : Array.from(traces?.[band] ?? []);
      const slots = playing ? HISTORY : Math.max(values.length, Math.ceil(frames / TRACE_FRAMES));
      const left = 8 + band * each;
      const area = { left: left + 4, top: 20, width: each - 38, height: height - 28, slots };
      const most = drawReduction(surface, palette, area, values);
      context.font = `12px ${FIGURE_FACE}`;
      context.textAlign = 'left';
      context.fillStyle = palette.ink;
      context.fillText(`${band + 1}: most ${figure(-most)} dB`, left + 4, 13);
    }
  };
  return <Picture label="Gain reduction of each band" moving={playing} draw={draw} />;
}
