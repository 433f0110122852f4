'use client';

import { useMemo, type PointerEvent } from 'react';
import type { Stage } from '../../../core/lane/schema';
import { deEsserBand } from '../../../core/stages/de-esser/design';
import { deEsserSettings } from '../../../core/stages/de-esser/settings';
import { describe } from '../../../core/stages/setting';
import { bandSections, sectionsGainDb } from '../../../core/stages/equalizer/design';
import { regionBands } from '../../../core/stages/equalizer/region';
import { useCanvas } from '../../kit/use-canvas';
import { hertz } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMeasurements, useTrack, useTransport } from '../../track/context';
import { frequencyAt, frequencyUnder, LEFT, RIGHT, shareOf } from '../equalizer/equalizer-axes';
import { columnsOf, SPECTRUM_FLOOR, SpectrumLine } from '../equalizer/spectrum-line';

const FREQUENCIES = [50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000];
const TOP_DB = -12;
const TILT_DB = 3;
const AXIS = 18;

/** The spectrum with the region that is listened to; a press or a drag moves it. */
export function DeEsserPicture({ stage, index }: { stage: Extract<Stage, { kind: 'deEsser' }>; index: number }) {
  const editor = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const sampleRate = useTrack((state) => state.details.mix?.source.sampleRate ?? 44100);
  const average = useMeasurements((state) => state.measurement?.spectra[index]);
  const lines = useMemo(
    () => ({ before: new SpectrumLine('medium', TILT_DB), after: new SpectrumLine('medium', TILT_DB) }),
    [],
  );
  const { settings } = stage;
  const region = useMemo(
    () => regionBands(deEsserBand(settings, -6)).flatMap((band) => bandSections(band, sampleRate)),
    [settings, sampleRate],
  );
  const canvas = useCanvas(({ context, width, height }) => {
    const plot = width - LEFT - RIGHT;
    const body = height - AXIS;
    context.font = `10.5px ${FIGURE_FACE}`;
    context.textAlign = 'center';
    for (const hz of FREQUENCIES) {
      const x = LEFT + shareOf(hz) * plot;
      context.fillStyle = palette.hairline;
      context.fillRect(x, 0, 1, body);
      context.fillStyle = palette.quiet;
      context.fillText(hertz(hz), Math.min(width - 16, x), height - 5);
    }
    const columns = Math.max(2, Math.floor(plot / 2));
    const y = (db: number) => ((TOP_DB - Math.max(SPECTRUM_FLOOR, db)) / (TOP_DB - SPECTRUM_FLOOR)) * body;
    const { taps } = editor;
    if (playing) {
      const [written] = taps.written;
      lines.before.update(taps.before, written, columns, sampleRate);
      lines.after.update(taps.after, written, columns, sampleRate);
    }
    const of = (bins: Float32Array | undefined) =>
      bins ? columnsOf(bins, sampleRate, columns, 'medium', TILT_DB) : new Float32Array(0);
    const place = (i: number, count: number) => LEFT + (i / (count - 1)) * plot;
    context.save();
    context.beginPath();
    context.rect(LEFT, 0, plot, body);
    context.clip();
    // The region: full height where all of it is listened to.
    context.beginPath();
    context.moveTo(LEFT, body);
    for (let i = 0; i < columns; i++) {
      const gain = 10 ** (sectionsGainDb(region, frequencyAt(i / (columns - 1)), sampleRate) / 20);
      context.lineTo(place(i, columns), body * (1 - 0.94 * Math.min(1, gain)));
    }
    context.lineTo(LEFT + plot, body);
    context.globalAlpha = 0.14;
    context.fillStyle = palette.ochre;
    context.fill();
    context.globalAlpha = 1;
    const line = (levels: Float32Array, color: string) => {
      context.strokeStyle = color;
      context.lineWidth = 1.4;
      context.beginPath();
      levels.forEach((db, i) => context.lineTo(place(i, levels.length), y(db)));
      context.stroke();
    };
    line(playing ? lines.before.levels : of(average?.before), palette.copper);
    line(playing ? lines.after.levels : of(average?.after), palette.patina);
    context.restore();
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
