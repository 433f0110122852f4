'use client';

import { useCanvas } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useTransport } from '../../track/context';
import { HISTORY } from '../../track/live-board';

const TOP_DB = 3;
const FLOOR_DB = -45;
const LINES = [0, -10, -20, -30, -40];
const RIGHT = 44;

/** Loudness and true peak into and out of a stage over the last seconds, on one scale. */
export function LevelHistory({ index }: { index: number }) {
  const { board } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const canvas = useCanvas(({ context, width, height }) => {
    const y = (db: number) =>
      8 + ((TOP_DB - Math.max(FLOOR_DB, Math.min(TOP_DB, db))) / (TOP_DB - FLOOR_DB)) * (height - 16);
    context.font = `10.5px ${FIGURE_FACE}`;
    context.textAlign = 'right';
    for (const db of LINES) {
      context.fillStyle = palette.hairline;
      context.fillRect(16, y(db), width - RIGHT - 16, 1);
      context.fillStyle = palette.quiet;
      context.fillText(figure(db, 0), width - 10, y(db) + 3.5);
    }
    const { history } = board;
    const plot = width - RIGHT - 16;
    const line = (joint: number, color: string) => {
      const values = history.map(({ joints }) => joints[joint]).filter((joint_) => joint_ !== undefined);
      const x = (i: number) => 16 + ((HISTORY - values.length + i) / HISTORY) * plot;
      context.strokeStyle = color;
      context.globalAlpha = 0.45;
      context.lineWidth = 1;
      context.beginPath();
      values.forEach(({ truePeakDbtp }, i) => context.lineTo(x(i), y(truePeakDbtp)));
      context.stroke();
      context.globalAlpha = 1;
      context.lineWidth = 2;
      context.beginPath();
      values.forEach(({ momentaryLufs }, i) => context.lineTo(x(i), y(momentaryLufs)));
      context.stroke();
    };
    if (history.length === 0) {
      context.fillStyle = palette.quiet;
      context.textAlign = 'center';
      context.fillText('Play to see the level in and out', width / 2, height / 2);
    }
    line(index, palette.copper);
    line(index + 1, palette.patina);
  }, playing);
  return <canvas ref={canvas} style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} aria-hidden />;
}
