'use client';

import type { MouseEvent } from 'react';
import { useCanvas } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useMixLength } from '../../track/context';
import { drawShavedStrip } from './draw-shaved-strip';

/** Where in the track the clipper shaves, and how much; a click goes there. */
export function ShavedStrip({ index }: { index: number }) {
  const editor = useEditor();
  const palette = usePalette();
  const { frames } = useMixLength();
  const trace = useMeasurements((state) => state.measurement?.gainReduction[index]);
  const canvas = useCanvas((surface) => drawShavedStrip(surface, { trace: trace ?? null, frames }, palette), false);
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
