'use client';

import Box from '@mui/material/Box';
import { useMemo, useRef, type ReactNode } from 'react';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useLane, useMeasurements, useTrack, useTransport } from '../../track/context';
import { CrossoverHandles } from './crossover-handles';
import { frequencyUnder } from '../equalizer/equalizer-axes';
import { Spectra, spectrumColumns } from '../equalizer/spectrum-line';
import { AXIS, drawBandSpectrum, type BandSpectrumPicture } from './draw-band-spectrum';

const TILT_DB = 3;

/** Spectrum in copper and patina over the lane's bands; a press opens a band, the crossovers between them move. */
export function BandSpectrum({
  index,
  open,
  onOpen,
  names,
  draw: drawInto,
}: {
  index: number;
  open: number;
  onOpen: (band: number) => void;
} & Pick<BandSpectrumPicture, 'names' | 'draw'>): ReactNode {
  const editor = useEditor();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const sampleRate = useTrack((state) => state.details.mix?.source.sampleRate ?? 44100);
  const average = useMeasurements((state) => state.measurement?.spectra[index]);
  const crossovers = useLane((state) => state.version.lane.crossovers);
  const box = useRef<HTMLDivElement>(null);
  const spectra = useMemo(() => new Spectra('medium', TILT_DB), []);
  const draw: Draw = (surface) => {
    const columns = spectrumColumns(surface.width);
    if (playing) spectra.update(editor.taps, columns, sampleRate);
    const levels = playing ? spectra.live() : spectra.average(average, columns, sampleRate);
    drawBandSpectrum(surface, { crossovers, open, names, levels, draw: drawInto }, palette);
  };
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
      <Picture moving={playing} draw={draw} />
      <CrossoverHandles box={box} bottom={AXIS} open={open} />
    </Box>
  );
}
