'use client';

import Box from '@mui/material/Box';
import { bandEdges } from '../../../core/stages/bands/crossovers';
import { Picture } from '../../kit/picture';
import type { Draw } from '../../kit/use-canvas';
import { change, hertz } from '../../kit/format';
import { FIGURE_FACE } from '../../theme/theme';
import { usePalette } from '../../theme/use-palette';
import { useLane, useLiveReadings, useMeasurements, useTransport } from '../../track/context';
import { drawCorrelation } from './draw-correlation';

/** Lower is heard as a hole in mono (common practice, no source). */
const LOW_CORRELATION = 0;

function mean(values: Float32Array | undefined): number {
  let sum = 0;
  let count = 0;
  values?.forEach((value) => {
    if (Number.isNaN(value)) return;
    sum += value;
    count++;
  });
  return count > 0 ? sum / count : NaN;
}

/** Correlation of everything and of each band as bars from −1 to +1: now while playing, else the mean of the measurement. */
export function CorrelationBars({ index }: { index: number }) {
  const readings = useLiveReadings();
  const playing = useTransport((state) => state.playing);
  const image = useMeasurements((state) => state.measurement?.images[index]?.after);
  const crossovers = useLane((state) => state.version.lane.crossovers);
  const count = crossovers.frequenciesHz.length + 1;
  const values = playing
    ? (readings?.correlations ?? [])
    : [mean(image?.correlation), ...(image?.bands ?? []).map((band) => mean(band))];
  const names = [
    'all',
    ...Array.from({ length: count }, (_, band) => {
      const [from, to] = bandEdges(crossovers, band);
      return to === Infinity ? `> ${hertz(from)}` : `< ${hertz(to)}`;
    }),
  ];
  return (
    <Box
      component="ul"
      aria-label="Correlation"
      sx={{ m: 0, p: 1, fontSize: 12, display: 'grid', alignContent: 'center', listStyle: 'none' }}
    >
      <Box component="li" sx={{ color: 'text.secondary', mb: 0.5 }}>
        Correlation, {playing ? 'now' : 'whole track'}
      </Box>
      {names.map((name, i) => {
        const value = values[i] ?? NaN;
        const known = !Number.isNaN(value);
        const low = known && value < LOW_CORRELATION;
        return (
          <Box
            component="li"
            key={name}
            sx={{
              display: 'grid',
              gridTemplateColumns: '48px 1fr 44px',
              alignItems: 'center',
              gap: 0.75,
              lineHeight: 1.7,
            }}
          >
            <Box component="span" sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
              {name}
            </Box>
            <Box sx={{ position: 'relative', height: 8, bgcolor: 'divider', borderRadius: 0.5 }}>
              {known && (
                <Box
                  sx={{ position: 'absolute', top: 0, bottom: 0, bgcolor: low ? 'error.main' : 'primary.main' }}
                  style={{ left: `${50 + Math.min(0, value) * 50}%`, width: `${Math.abs(value) * 50}%` }}
                />
              )}
              <Box
                sx={{
                  position: 'absolute',
                  left: '50%',
                  top: -2,
                  bottom: -2,
                  borderLeft: 1,
                  borderColor: 'text.primary',
                }}
              />
            </Box>
            <Box
              component="span"
              sx={{ m: 0, fontFamily: FIGURE_FACE, textAlign: 'right', color: low ? 'error.main' : undefined }}
            >
              {known ? change(value, 2) : '–'}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

/** Correlation over the whole track, before the stage and after it: of everything, and dotted of one band. */
export function CorrelationOverTime({ index, band }: { index: number; band: number }) {
  const palette = usePalette();
  const images = useMeasurements((state) => state.measurement?.images[index]);
  const draw: Draw = (surface) => drawCorrelation(surface, { images: images ?? null, band }, palette);
  return <Picture label="Correlation over time" draw={draw} />;
}
