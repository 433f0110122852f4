'use client';

import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useTransport } from '../../track/context';
import { drawVectorscope } from './draw-vectorscope';

/** What comes out of the open stage, mid upwards and side across: a line that stands up is mono, one that lies is inverted. */
export function Vectorscope() {
  const { taps } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const draw: Draw = (surface) =>
    drawVectorscope(surface, playing ? { ...taps, mid: taps.after, side: taps.afterSide } : null, palette);
  return <Picture label="Vectorscope" moving={playing} draw={draw} />;
}
