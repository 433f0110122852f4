'use client';

import { useMemo } from 'react';
import { Picture } from '../../kit/picture';
import { SpectrumLine } from '../../stages/equalizer/spectrum-line';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMixLength, useTransport } from '../context';
import { drawSpectrum, SPECTRUM_COLUMNS } from './draw-spectrum';

/** Live spectra of mid and side at a place. */
export function Spectrum({ place, color }: { place: 0 | 1; color: string }) {
  const { rings, board } = useEditor();
  const { sampleRate } = useMixLength();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const lines = useMemo(() => [new SpectrumLine('medium', 3), new SpectrumLine('medium', 3)] as const, []);
  const ring = rings[place];
  return (
    <Picture
      label="Spectrum of mid and side"
      moving={playing}
      draw={(surface) => {
        const end = ring.written[0] - (board.latest?.instruments.at(place)?.lead ?? 0);
        if (playing) {
          lines[0].update(ring.mid, end, SPECTRUM_COLUMNS, sampleRate);
          lines[1].update(ring.side, end, SPECTRUM_COLUMNS, sampleRate);
        }
        drawSpectrum(surface, lines[0].levels, lines[1].levels, color, palette);
      }}
    />
  );
}
