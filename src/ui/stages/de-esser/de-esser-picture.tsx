'use client';

import { useMemo, type PointerEvent } from 'react';
import type { Stage } from '../../../core/lane/schema';
import { deEsserBand } from '../../../core/stages/de-esser/design';
import { deEsserSettings } from '../../../core/stages/de-esser/settings';
import { describe } from '../../../core/stages/setting';
import { bandSections } from '../../../core/stages/equalizer/design';
import { regionBands } from '../../../core/stages/equalizer/region';
import { useCanvas } from '../../kit/use-canvas';
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
  const canvas = useCanvas((surface) => {
    const columns = spectrumColumns(surface.width);
    if (playing) spectra.update(editor.taps, columns, sampleRate);
    const levels = playing ? spectra.live() : spectra.average(average, columns, sampleRate);
    drawDeEsser(surface, { region, sampleRate, levels }, palette);
  }, playing);

  const move = (event: PointerEvent<HTMLCanvasElement>) => {
    const { min, max } = describe(deEsserSettings.shape.frequencyHz);
    const hz = frequencyUnder(event.currentTarget, event.clientX);
    editor.lane.setStage(stage, 'Frequency', { frequencyHz: Math.round(Math.max(min, Math.min(max, hz)) / 10) * 10 });
  };
  return (
    <canvas
      ref={canvas}
      style={{
        position: 'absolute',
        inset: 0,
        width: '100%',
        height: '100%',
        touchAction: 'none',
        cursor: 'ew-resize',
      }}
      aria-hidden
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        move(event);
      }}
      onPointerMove={(event) => event.buttons === 1 && move(event)}
      onPointerUp={() => void editor.lane.flush()}
    />
  );
}
