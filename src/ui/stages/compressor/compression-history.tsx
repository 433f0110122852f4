'use client';

import { TRACE_FRAMES } from '../../../engine/measure/measurement';
import { useCanvas } from '../../kit/use-canvas';
import { figure } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack, useTransport } from '../../track/context';
import { HISTORY } from '../../track/live-board';
import { drawReduction } from '../dynamics/reduction-trace';

const FLOOR_DB = -48;
const LINES = [0, -12, -24, -36];
const RIGHT = 40;

/** Gain reduction, and below it the peaks that went in and came out, over the last seconds; the whole track when not playing. */
export function CompressionHistory({ index }: { index: number }) {
  const { board } = useEditor();
  const palette = usePalette();
  const measurement = useMeasurements((state) => state.measurement);
  const playing = useTransport((state) => state.playing);
  const audio = useTrack((state) => state.audio);
  const canvas = useCanvas((surface) => {
    const { context, width, height } = surface;
    const readings = playing ? board.history : [];
    const values = playing
      ? readings.map(({ gainReduction }) => gainReduction[index] ?? 0)
      : Array.from(measurement?.gainReduction[index] ?? []);
    const slots = playing ? HISTORY : Math.max(values.length, Math.ceil((audio?.left.length ?? 1) / TRACE_FRAMES));
    const plot = width - RIGHT - 8;
    const upper = playing ? (height - 30) * 0.5 : height - 34;
    const most = drawReduction(surface, palette, { left: 8, top: 10, width: plot, height: upper, slots }, values);
    context.textAlign = 'left';
    context.fillStyle = palette.ink;
    if (values.length === 0) {
      context.fillStyle = palette.quiet;
      context.textAlign = 'center';
      context.fillText(measurement ? 'Nothing is above the threshold' : 'Not measured yet', width / 2, height / 2);
    } else if (!playing) context.fillText(`most in the whole track ${figure(-most)} dB`, 12, height - 6);
    if (!playing) return;
    const top = 10 + upper + 16;
    const y = (db: number) => top + (Math.min(0, Math.max(FLOOR_DB, db)) / FLOOR_DB) * (height - 8 - top);
    context.font = `10.5px ${FIGURE_FACE}`;
    for (const db of LINES) {
      context.fillStyle = palette.hairline;
      context.fillRect(8, y(db), plot, 1);
      context.fillStyle = palette.quiet;
      context.fillText(figure(db, 0), plot + 14, y(db) + 3.5);
    }
    const line = (joint: number, color: string) => {
      context.strokeStyle = color;
      context.lineWidth = 1.6;
      context.beginPath();
      readings.forEach(({ joints }, i) => {
        const x = 8 + ((slots - readings.length + i) / slots) * plot;
        if (joints[joint]) context.lineTo(x, y(joints[joint].samplePeakDbfs));
      });
      context.stroke();
    };
    line(index, palette.copper);
    line(index + 1, palette.patina);
  }, playing);
  return (
    <canvas
      ref={canvas}
      style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
      aria-label="Gain reduction and peaks over time"
      role="img"
    />
  );
}
