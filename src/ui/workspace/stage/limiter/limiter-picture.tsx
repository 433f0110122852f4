'use client';

import { PASS_FRAMES } from '../../../../engine/pass/result';
import { useCanvas } from '../../../charts/use-canvas';
import { figure } from '../../../format';
import { FIGURE_FACE } from '../../../theme/theme';
import { usePalette } from '../../../theme/use-palette';
import { useSession, useWorkspace } from '../../context';
import { HISTORY } from '../../live-board';

const LINES = [0, 1, 2, 3, 6, 9, 12];
const LEFT = 16;
const RIGHT = 44;
/** Readings for which a peak of the gain reduction is held in the picture. */
const HOLD = 45;

/** Gain reduction over the last seconds while playing, over the whole track when not; peaks held as steps. */
export function LimiterPicture({ index }: { index: number }) {
  const { board } = useSession();
  const palette = usePalette();
  const pass = useWorkspace((state) => state.pass);
  const playing = useWorkspace((state) => state.playing);
  const audio = useWorkspace((state) => state.audio);
  const canvas = useCanvas(({ context, width, height }) => {
    const trace = pass?.gainReduction[index];
    const values = playing
      ? board.history.map(({ gainReduction }) => gainReduction[index] ?? 0)
      : Array.from(trace ?? []);
    const deepest = Math.max(
      3,
      ...LINES.filter((line) => values.some((value) => value > line * 0.75)).map((line) => line * 1.5),
    );
    const scale = Math.min(14, deepest);
    const plot = width - LEFT - RIGHT;
    const bottom = height - 20;
    // Square root: the first decibels, which matter most, get the most room.
    const y = (db: number) => 10 + Math.sqrt(Math.min(1, db / scale)) * (bottom - 10);
    context.font = `10.5px ${FIGURE_FACE}`;
    context.textAlign = 'right';
    for (const line of LINES.filter((db) => db <= scale)) {
      context.fillStyle = palette.hairline;
      context.fillRect(LEFT, y(line), plot, 1);
      context.fillStyle = palette.quiet;
      context.fillText(figure(-line, 0), width - 12, y(line) + 3.5);
    }
    const slots = playing ? HISTORY : Math.max(1, Math.ceil((audio?.left.length ?? 1) / PASS_FRAMES));
    const x = (i: number) => LEFT + ((playing ? slots - values.length + i : i) / slots) * plot;
    if (values.length > 0) {
      context.beginPath();
      context.moveTo(x(0), y(0));
      values.forEach((value, i) => context.lineTo(x(i), y(value)));
      context.lineTo(x(values.length - 1), y(0));
      context.closePath();
      context.globalAlpha = 0.16;
      context.fillStyle = palette.ink;
      context.fill();
      context.globalAlpha = 1;
      context.lineWidth = 1.4;
      context.strokeStyle = palette.ink;
      context.beginPath();
      values.forEach((value, i) => context.lineTo(x(i), y(value)));
      context.stroke();
      context.strokeStyle = palette.ochre;
      context.setLineDash([4, 3]);
      context.beginPath();
      let held = 0;
      let age = 0;
      values.forEach((value, i) => {
        if (value >= held || ++age > HOLD) {
          held = value;
          age = 0;
        }
        context.lineTo(x(i), y(held));
      });
      context.stroke();
      context.setLineDash([]);
      const most = values.reduce((a, b) => Math.max(a, b), 0);
      context.fillStyle = palette.ink;
      context.textAlign = 'left';
      context.fillText(
        playing ? `most in the last seconds ${figure(-most)} dB` : `most in the whole track ${figure(-most)} dB`,
        LEFT + 4,
        height - 6,
      );
    } else {
      context.fillStyle = palette.quiet;
      context.textAlign = 'center';
      context.fillText(
        pass ? 'The limiter has nothing to do: no peak reaches the ceiling' : 'Waiting for the full pass',
        width / 2,
        height / 2,
      );
    }
  }, playing);
  return (
    <canvas
      ref={canvas}
      style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
      aria-label="Gain reduction"
      role="img"
    />
  );
}
