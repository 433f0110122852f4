'use client';

import type { SaturationSettings } from '../../../core/stages/saturation/settings';
import { wetSample } from '../../../core/stages/saturation/design';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTransport } from '../../track/context';
import { liveWindow } from '../distortion/live-window';
import { drawCurve } from './draw-curve';

const LIVE_FRAMES = 1024;
const NONE = new Float32Array(0);

/** What comes out for what goes in, dry/wet included, with the samples of the music on it. */
export function CurvePicture({ settings, index }: { settings: SaturationSettings; index: number }) {
  const { taps } = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const excerpt = useMeasurements((state) => state.measurement?.distortions[index]?.excerpt);
  const wet = settings.mixPercent / 100;
  const curve = (x: number) => x + wet * (wetSample(settings, x) - x);
  const draw: Draw = (surface) => {
    const samples = playing ? liveWindow(taps, 'left', LIVE_FRAMES, 0).before : (excerpt?.before ?? NONE);
    drawCurve(surface, { curve, samples }, palette);
  };
  return <Picture label="The curve, with the music on it" moving={playing} draw={draw} />;
}
