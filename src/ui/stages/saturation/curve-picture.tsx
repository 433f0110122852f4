'use client';

import type { SaturationSettings } from '../../../core/stages/saturation/settings';
import { wetSample } from '../../../core/stages/saturation/design';
import { useCanvas } from '../../kit/use-canvas';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTransport } from '../../track/context';
import { liveWindow } from '../distortion/live-window';

const LIVE_FRAMES = 1024;
const STEPS = 120;

/** What comes out for what goes in, dry/wet included, with the samples of the music on it. */
export function CurvePicture({ settings, index }: { settings: SaturationSettings; index: number }) {
  const { taps } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const excerpt = useMeasurements((state) => state.measurement?.distortions[index]?.excerpt);
  const wet = settings.mixPercent / 100;
  const curve = (x: number) => x + wet * (wetSample(settings, x) - x);
  const canvas = useCanvas(({ context, width, height }) => {
    const side = Math.min(width - 20, height - 26);
    const [left, top] = [(width - side) / 2, 8];
    const x = (value: number) => left + ((value + 1) / 2) * side;
    const y = (value: number) => top + ((1 - Math.max(-1.1, Math.min(1.1, value))) / 2) * side;
    context.fillStyle = palette.hairline;
    for (const line of [-1, -0.5, 0, 0.5, 1]) {
      context.fillRect(left, y(line), side, 1);
      context.fillRect(x(line), top, 1, side);
    }
    context.strokeStyle = palette.quiet;
    context.setLineDash([3, 3]);
    context.beginPath();
    context.moveTo(x(-1), y(-1));
    context.lineTo(x(1), y(1));
    context.stroke();
    context.setLineDash([]);
    const samples = playing ? liveWindow(taps, 'left', LIVE_FRAMES, 0).before : excerpt?.before;
    context.fillStyle = palette.copper;
    context.globalAlpha = 0.25;
    for (let i = 0; samples && i < samples.length; i += 2) {
      const value = samples[i];
      if (Math.abs(value) <= 1) context.fillRect(x(value) - 1, y(curve(value)) - 3, 2, 6);
    }
    context.globalAlpha = 1;
    context.strokeStyle = palette.ink;
    context.lineWidth = 2.2;
    context.beginPath();
    for (let i = 0; i <= STEPS; i++) {
      const value = (2 * i) / STEPS - 1;
      context.lineTo(x(value), y(curve(value)));
    }
    context.stroke();
    context.font = `10.5px ${FIGURE_FACE}`;
    context.fillStyle = palette.quiet;
    context.textAlign = 'center';
    context.fillText('in, full scale', left + side / 2, top + side + 13);
  }, playing);
  return (
    <canvas
      ref={canvas}
      style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
      aria-label="The curve, with the music on it"
      role="img"
    />
  );
}
