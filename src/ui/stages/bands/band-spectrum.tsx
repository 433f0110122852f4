'use client';

import Box from '@mui/material/Box';
import { useMemo, useRef, type ReactNode } from 'react';
import { bandEdges } from '../../../core/stages/bands/crossovers';
import { useCanvas, type Surface } from '../../kit/use-canvas';
import { hertz } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useLane, useMeasurements, useTrack, useTransport } from '../../track/context';
import { frequencyUnder, HIGH, LEFT, LOW, RIGHT, shareOf } from '../equalizer/equalizer-axes';
import { columnsOf, SPECTRUM_FLOOR, SpectrumLine } from '../equalizer/spectrum-line';
import { CrossoverHandles } from './crossover-handles';

const FREQUENCIES = [20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000];
const TOP_DB = -12;
const TILT_DB = 3;
const AXIS = 18;

/** Spectrum in copper and patina over the lane's bands; a press opens a band, the crossovers between them move. */
export function BandSpectrum({
  index,
  open,
  onOpen,
  names,
  draw,
}: {
  index: number;
  open: number;
  onOpen: (band: number) => void;
  /** What is written at the top of each band. */
  names: string[];
  /** Draws more into each band: from and to in pixels. */
  draw?: (surface: Surface, band: number, from: number, to: number) => void;
}): ReactNode {
  const editor = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const sampleRate = useTrack((state) => state.details.mix?.source.sampleRate ?? 44100);
  const average = useMeasurements((state) => state.measurement?.spectra[index]);
  const crossovers = useLane((state) => state.version.lane.crossovers);
  const box = useRef<HTMLDivElement>(null);
  const lines = useMemo(
    () => ({ before: new SpectrumLine('medium', TILT_DB), after: new SpectrumLine('medium', TILT_DB) }),
    [],
  );
  const canvas = useCanvas((surface) => {
    const { context, width, height } = surface;
    const plot = width - LEFT - RIGHT;
    const body = height - AXIS;
    const x = (hz: number) => LEFT + shareOf(Math.max(LOW, Math.min(HIGH, hz))) * plot;
    context.font = `10.5px ${FIGURE_FACE}`;
    context.textAlign = 'center';
    names.forEach((name, band) => {
      const [from, to] = bandEdges(crossovers, band).map(x);
      if (band === open) {
        context.fillStyle = palette.sunken;
        context.fillRect(from, 0, to - from, body);
      }
      context.fillStyle = palette.quiet;
      if (to - from > 40) context.fillText(name, (from + to) / 2, 34);
    });
    for (const hz of FREQUENCIES) {
      context.fillStyle = palette.hairline;
      context.fillRect(x(hz), 0, 1, body);
      context.fillStyle = palette.quiet;
      context.fillText(hertz(hz), Math.min(width - 16, x(hz)), height - 5);
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
    const before = playing ? lines.before.levels : of(average?.before);
    const after = playing ? lines.after.levels : of(average?.after);
    context.save();
    context.beginPath();
    context.rect(LEFT, 0, plot, body);
    context.clip();
    const trace = (levels: Float32Array) =>
      levels.forEach((db, i) => context.lineTo(LEFT + (i / (levels.length - 1)) * plot, y(db)));
    context.beginPath();
    trace(after);
    context.lineTo(LEFT + plot, body);
    context.lineTo(LEFT, body);
    context.globalAlpha = 0.25;
    context.fillStyle = palette.patina;
    context.fill();
    context.globalAlpha = 1;
    context.strokeStyle = palette.copper;
    context.lineWidth = 1;
    context.beginPath();
    trace(before);
    context.stroke();
    names.forEach((_, band) => {
      const [from, to] = bandEdges(crossovers, band).map(x);
      draw?.(surface, band, from, to);
    });
    context.restore();
  }, playing);
  return (
    <Box
      ref={box}
      sx={{ position: 'absolute', inset: 0 }}
      onClick={({ target, clientX }) => {
        if (!(target instanceof HTMLCanvasElement)) return;
        const hz = frequencyUnder(target, clientX);
        onOpen(crossovers.frequenciesHz.filter((edge) => edge <= hz).length);
      }}
    >
      <canvas ref={canvas} style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} aria-hidden />
      <CrossoverHandles box={box} bottom={AXIS} />
    </Box>
  );
}
