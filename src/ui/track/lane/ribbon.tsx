'use client';

import { useRef } from 'react';
import type { JointReading } from '../../../engine/measure/measurement';
import { useCanvas } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTransport } from '../context';

/** Share of a new reading that the drawn ribbon takes in a frame: quick enough to follow, slow enough to read. */
const FOLLOW = 0.18;

/** Pixels within which the ribbon is where it belongs. */
const STILL = 0.05;

function thickness(lufs: number): number {
  return Math.max(2, Math.min(46, (lufs + 42) * 1.25));
}

function outer(db: number): number {
  return Math.max(3, Math.min(58, (db + 36) * 1.5));
}

/** The signal through the lane: thickness is loudness, the outer edge the peak; live while playing, else as measured. */
export function Ribbon({ joints, inset }: { joints: number; inset: number }) {
  const { board } = useEditor();
  const palette = usePalette();
  const measurement = useMeasurements((state) => state.measurement);
  const playing = useTransport((state) => state.playing);
  const shown = useRef<{ body: number; edge: number }[]>([]);

  const target = (joint: number): { body: number; edge: number } => {
    const live = playing && board.latest?.joints.length === joints ? board.latest.joints[joint] : null;
    if (live) return { body: thickness(live.momentaryLufs), edge: outer(live.truePeakDbtp) };
    const reading: JointReading | undefined = measurement?.joints[joint];
    return reading
      ? { body: thickness(reading.integratedLufs), edge: outer(reading.truePeakDbtp) }
      : { body: 2, edge: 3 };
  };

  const canvas = useCanvas(({ context, width, height }) => {
    while (shown.current.length < joints) shown.current.push({ body: 2, edge: 3 });
    shown.current.length = joints;
    for (let joint = 0; joint < joints; joint++) {
      const { body, edge } = target(joint);
      shown.current[joint].body += (body - shown.current[joint].body) * FOLLOW;
      shown.current[joint].edge += (edge - shown.current[joint].edge) * FOLLOW;
    }
    const stops = joints - 1;
    const stopX = (stage: number) => inset + ((stage + 0.5) / stops) * (width - 2 * inset);
    const middle = height / 2;
    const gradient = context.createLinearGradient(0, 0, width, 0);
    gradient.addColorStop(0, palette.copper);
    gradient.addColorStop(1, palette.patina);
    context.fillStyle = gradient;
    const shape = (size: (joint: number) => number, alpha: number) => {
      context.globalAlpha = alpha;
      context.beginPath();
      for (const sign of [-1, 1]) {
        const edgeY = (joint: number) => middle + (sign * size(joint)) / 2;
        // One edge is walked forth, the other back; each stop bends the ribbon within a few pixels.
        if (sign < 0) {
          context.moveTo(0, edgeY(0));
          for (let stage = 0; stage < stops; stage++) {
            const x = stopX(stage);
            context.lineTo(x - 18, edgeY(stage));
            context.bezierCurveTo(x, edgeY(stage), x, edgeY(stage + 1), x + 18, edgeY(stage + 1));
          }
          context.lineTo(width, edgeY(stops));
        } else {
          context.lineTo(width, edgeY(stops));
          for (let stage = stops - 1; stage >= 0; stage--) {
            const x = stopX(stage);
            context.lineTo(x + 18, edgeY(stage + 1));
            context.bezierCurveTo(x, edgeY(stage + 1), x, edgeY(stage), x - 18, edgeY(stage));
          }
          context.lineTo(0, edgeY(0));
        }
      }
      context.closePath();
      context.fill();
      context.globalAlpha = 1;
    };
    shape((joint) => shown.current[joint].edge, 0.28);
    shape((joint) => shown.current[joint].body, 1);
    // At rest the ribbon moves until it is where it was measured.
    return shown.current.some((drawn, joint) => {
      const { body, edge } = target(joint);
      return Math.abs(body - drawn.body) + Math.abs(edge - drawn.edge) > STILL;
    });
  }, playing);

  return (
    <canvas
      ref={canvas}
      style={{ position: 'absolute', left: 16, right: 16, width: 'calc(100% - 32px)', top: 62, height: 62 }}
      aria-hidden
    />
  );
}
