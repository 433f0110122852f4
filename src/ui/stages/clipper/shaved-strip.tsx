'use client';

import type { MouseEvent } from 'react';
import { TRACE_FRAMES } from '../../../engine/measure/measurement';
import { useCanvas } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack } from '../../track/context';

/** Where in the track the clipper shaves, and how much; a click goes there. */
export function ShavedStrip({ index }: { index: number }) {
  const editor = useEditor();
  const palette = usePalette();
  const audio = useTrack((state) => state.audio);
  const trace = useMeasurements((state) => state.measurement?.gainReduction[index]);
  const frames = audio?.left.length ?? 1;
  const canvas = useCanvas(({ context, width, height }) => {
    context.fillStyle = palette.sunken;
    context.fillRect(0, 0, width, height);
    context.font = `10.5px ${FIGURE_FACE}`;
    context.fillStyle = palette.quiet;
    context.textAlign = 'left';
    const values = trace ?? new Float32Array(0);
    const most = values.reduce((a, b) => Math.max(a, b), 0);
    if (most === 0) return context.fillText('Nothing is cut in this track', 8, height - 6);
    context.fillStyle = palette.copper;
    const perPixel = frames / TRACE_FRAMES / width;
    for (let x = 0; x < width; x++) {
      let here = 0;
      for (let i = Math.floor(x * perPixel); i < (x + 1) * perPixel && i < values.length; i++)
        here = Math.max(here, values[i]);
      if (here > 0) context.fillRect(x, height - 2 - (here / most) * (height - 6), 1, (here / most) * (height - 6) + 2);
    }
    context.fillStyle = palette.quiet;
    context.fillText(`cut over the track, up to ${figure(most)} dB`, 8, 11);
  }, false);
  const onClick = (event: MouseEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    editor.transport.seek(Math.round(((event.clientX - box.left) / box.width) * frames));
  };
  return (
    <canvas
      ref={canvas}
      onClick={onClick}
      style={{ width: '100%', height: 30, display: 'block', cursor: 'pointer', flexShrink: 0 }}
      aria-label="Where in the track the clipper cuts"
      role="img"
    />
  );
}
