'use client';

import { useMemo } from 'react';
import type { Stage } from '../../../core/lane/schema';
import { synthesisedImpulse } from '../../../core/stages/room/synthesis';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useTrack } from '../../track/context';
import { drawRoom, envelope } from './draw-room';

/** The dry sound as a line, and after the pre-delay the room as it decays. */
export function RoomPicture({ stage }: { stage: Extract<Stage, { kind: 'room' }> }) {
  const editor = useEditor();
  const palette = usePalette();
  const sampleRate = useTrack((state) => state.details.mix?.source.sampleRate ?? 44100);
  const { impulse, file, wetDb, preDelayMs } = stage.settings;
  const here = useTrack((state) => file !== null && state.impulses.includes(file));
  const shown = useMemo(() => {
    const found = impulse === 'file' ? editor.impulseNamed(file ?? '') : synthesisedImpulse(impulse, sampleRate);
    return found && { levels: envelope(found), seconds: found.left.length / sampleRate };
    // What a name stands for changes once, when it arrives.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [editor, impulse, file, sampleRate, here]);
  const draw: Draw = (surface) => drawRoom(surface, { room: shown ?? null, preDelayMs, wetDb }, palette);
  return <Picture label="The room over time" draw={draw} />;
}
