'use client';

import Box from '@mui/material/Box';
import { useRef } from 'react';
import { Picture } from '../../kit/picture';
import { drawVectorscope } from '../../stages/stereo/draw-vectorscope';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useEditor, useMixLength, useTransport } from '../context';
import { BandCorrelations, CORRELATION_BANDS } from './correlations';

/** Vectorscope and correlation by bands at a place. */
export function Image({ place, color }: { place: 0 | 1; color: string }) {
  const { rings, board } = useEditor();
  const { sampleRate } = useMixLength();
  const palette = usePalette();
  const playing = useTransport((state) => state.playing);
  const correlations = useRef(new BandCorrelations());
  const ring = rings[place];
  const lead = () => board.latest?.instruments.at(place)?.lead ?? 0;
  return (
    <Box sx={{ position: 'absolute', inset: 0, display: 'grid', gridTemplateColumns: '150px 1fr', gap: 1 }}>
      <Box sx={{ position: 'relative' }}>
        <Picture
          label="Vectorscope"
          moving={playing}
          draw={(surface) => drawVectorscope(surface, playing ? { ...ring, lead: lead() } : null, palette, color)}
        />
      </Box>
      <Box sx={{ position: 'relative' }}>
        <Picture
          label={`Correlation by bands: ${CORRELATION_BANDS.join(', ')}`}
          moving={playing}
          draw={({ context, width, height }) => {
            if (playing) correlations.current.update(ring.mid, ring.side, ring.written[0] - lead(), sampleRate);
            const row = height / CORRELATION_BANDS.length;
            const left = 96;
            const middle = left + (width - left) / 2;
            context.font = `12px ${FIGURE_FACE}`;
            correlations.current.values().forEach((value, i) => {
              const y = (i + 0.5) * row;
              context.fillStyle = palette.quiet;
              context.textAlign = 'left';
              context.fillText(CORRELATION_BANDS[i], 0, y + 4);
              context.fillStyle = palette.hairline;
              context.fillRect(left, y - 0.5, width - left, 1);
              context.fillRect(middle, y - row / 3, 1, (2 * row) / 3);
              if (value === null) return;
              context.fillStyle = value < 0 ? palette.brick : color;
              context.fillRect(middle + (value * (width - left)) / 2 - 2, y - row / 3, 4, (2 * row) / 3);
            });
          }}
        />
      </Box>
    </Box>
  );
}
