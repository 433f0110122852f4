'use client';

import Box from '@mui/material/Box';
import { useMemo, useRef } from 'react';
import type { Stage } from '../../../core/lane/schema';
import { deEsserBand } from '../../../core/stages/de-esser/design';
import { deEsserSettings } from '../../../core/stages/de-esser/settings';
import { describe } from '../../../core/stages/setting';
import { bandSections } from '../../../core/stages/equalizer/design';
import { regionBands } from '../../../core/stages/equalizer/region';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { useDrag } from '../../kit/use-drag';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack, useTransport } from '../../track/context';
import { frequencyUnder } from '../equalizer/equalizer-axes';
import { Spectra, spectrumColumns } from '../equalizer/spectrum-line';
import { drawDeEsser } from './draw-de-esser';

const TILT_DB = 3;

/** The spectrum with the region that is listened to; a press or a drag moves it. */
export function DeEsserPicture({ stage, index }: { stage: Extract<Stage, { kind: 'deEsser' }>; index: number }) {
  const editor = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const sampleRate = useTrack((state) => state.details.mix?.source.sampleRate ?? 44100);
  const average = useMeasurements((state) => state.measurement?.spectra[index]);
  const spectra = useMemo(() => new Spectra('medium', TILT_DB), []);
  const { settings } = stage;
  const region = useMemo(
    () => regionBands(deEsserBand(settings, -6)).flatMap((band) => bandSections(band, sampleRate)),
    [settings, sampleRate],
  );
  const draw: Draw = (surface) => {
    const columns = spectrumColumns(surface.width);
    if (playing) spectra.update(editor.taps, columns, sampleRate);
    const levels = playing ? spectra.live() : spectra.average(average, columns, sampleRate);
    drawDeEsser(surface, { region, sampleRate, levels }, palette);
  };

  const box = useRef<HTMLDivElement>(null);
  const drag = useDrag(({ xy: [x], last }) => {
    const { min, max } = describe(deEsserSettings.shape.frequencyHz);
    const hz = Math.max(min, Math.min(max, frequencyUnder(box.current!, x)));
    editor.lane.setStage(stage, 'Frequency', { frequencyHz: Math.round(hz / 10) * 10 });
    if (last) void editor.lane.flush();
  });
  return (
    <Box ref={box} {...drag()} sx={{ position: 'absolute', inset: 0, touchAction: 'none', cursor: 'ew-resize' }}>
      <Picture moving={playing} draw={draw} />
    </Box>
  );
}
