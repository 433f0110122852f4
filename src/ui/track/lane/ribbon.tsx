'use client';

import { useRef } from 'react';
import type { JointReading } from '../../../engine/measure/measurement';
import { useCanvas } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTransport } from '../context';
import { drawRibbon, RIBBON_AT_REST, ribbonAt, type RibbonSize } from './draw-ribbon';

/** Share of a new reading that the drawn ribbon takes in a frame: quick enough to follow, slow enough to read. */
const FOLLOW = 0.18;

/** Pixels within which the ribbon is where it belongs. */
const STILL = 0.05;

/** The signal through the lane: thickness is loudness, the outer edge the peak; live while playing, else as measured. */
export function Ribbon({ joints, inset }: { joints: number; inset: number }) {
  const { board } = useEditor();
  const palette = usePalette();
  const measurement = useMeasurements((state) => state.measurement);
  const playing = useTransport((state) => state.playing);
  const shown = useRef<RibbonSize[]>([]);

  const target = (joint: number): RibbonSize => {
    const live = playing && board.latest?.joints.length === joints ? board.latest.joints[joint] : null;
    if (live) return ribbonAt(live.momentaryLufs, live.truePeakDbtp);
    const reading: JointReading | undefined = measurement?.joints[joint];
    return reading ? ribbonAt(reading.integratedLufs, reading.truePeakDbtp) : RIBBON_AT_REST;
  };

  const canvas = useCanvas((surface) => {
    while (shown.current.length < joints) shown.current.push({ ...RIBBON_AT_REST });
    shown.current.length = joints;
    for (let joint = 0; joint < joints; joint++) {
      const { body, edge } = target(joint);
      shown.current[joint].body += (body - shown.current[joint].body) * FOLLOW;
      shown.current[joint].edge += (edge - shown.current[joint].edge) * FOLLOW;
    }
    drawRibbon(surface, shown.current, inset, palette);
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
