'use client';

import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useTransport } from '../../track/context';
import { HISTORY } from '../../track/live-board';
import { drawLevels } from './draw-levels';

/** Loudness and true peak into and out of a stage over the last seconds, on one scale. */
export function LevelHistory({ index }: { index: number }) {
  const { board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const draw: Draw = (surface) => {
    const joint = (at: number) => board.history.map(({ joints }) => joints[at]).filter((found) => found !== undefined);
    drawLevels(surface, { into: joint(index), out: joint(index + 1), slots: HISTORY }, palette);
  };
  return <Picture moving={playing} draw={draw} />;
}
