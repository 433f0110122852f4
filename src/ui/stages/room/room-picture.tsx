'use client';

import { useMemo } from 'react';
import { decibels } from '../../../core/signal/decibels';
import type { Stage } from '../../../core/lane/schema';
import type { ImpulseResponse } from '../../../core/stages/definition';
import { WET_OFF_DB } from '../../../core/stages/room/settings';
import { synthesisedImpulse } from '../../../core/stages/room/synthesis';
import { useCanvas } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useTrack } from '../../track/context';

const FLOOR_DB = -96;
const LINES = [0, -24, -48, -72];
const COLUMNS = 300;

/** Peak in dB of each of {@link COLUMNS} parts of a response. */
function envelope({ left, right }: ImpulseResponse): number[] {
  const per = left.length / COLUMNS;
  return Array.from({ length: COLUMNS }, (_, column) => {
    let most = 1e-9;
    for (let i = Math.floor(column * per); i < Math.min(left.length, (column + 1) * per); i++)
      most = Math.max(most, Math.abs(left[i]), Math.abs(right[i]));
    return decibels(most);
  });
}

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
  const canvas = useCanvas(({ context, width, height }) => {
    const right = width - 44;
    const bottom = height - 22;
    const y = (db: number) => 12 + (Math.max(FLOOR_DB, db) / FLOOR_DB) * (bottom - 12);
    const seconds = Math.max(0.6, (shown?.seconds ?? 0) + preDelayMs / 1000 + 0.05);
    const x = (second: number) => 20 + ((second + 0.02) / (seconds + 0.02)) * (right - 20);
    context.font = `10.5px ${FIGURE_FACE}`;
    for (const db of LINES) {
      context.fillStyle = palette.hairline;
      context.fillRect(20, y(db), right - 20, 1);
      context.fillStyle = palette.quiet;
      context.textAlign = 'left';
      context.fillText(`${figure(db, 0)}`, right + 6, y(db) + 3.5);
    }
    context.textAlign = 'center';
    const step = seconds > 3 ? 1 : seconds > 1.2 ? 0.5 : 0.1;
    for (let second = 0; second < seconds; second += step)
      context.fillText(`${figure(second, step < 1 ? 1 : 0)} s`, x(second), height - 6);
    context.fillStyle = palette.copper;
    context.fillRect(x(0) - 1.5, y(0), 3, bottom - y(0));
    if (!shown || wetDb <= WET_OFF_DB) {
      context.fillStyle = palette.quiet;
      context.fillText(shown ? 'Raise “Wet” to hear the room' : 'Loading the room', width / 2, height / 2);
    }
    if (!shown) return;
    context.beginPath();
    context.moveTo(x(preDelayMs / 1000), bottom);
    shown.levels.forEach((db, i) =>
      context.lineTo(x(preDelayMs / 1000 + (i / COLUMNS) * shown.seconds), y(db + wetDb)),
    );
    context.lineTo(x(preDelayMs / 1000 + shown.seconds), bottom);
    context.globalAlpha = wetDb <= WET_OFF_DB ? 0.15 : 0.5;
    context.fillStyle = palette.patina;
    context.fill();
    context.globalAlpha = 1;
  }, false);
  return (
    <canvas
      ref={canvas}
      style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
      aria-label="The room over time"
      role="img"
    />
  );
}
