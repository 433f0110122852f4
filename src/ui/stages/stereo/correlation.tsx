'use client';

import Box from '@mui/material/Box';
import { useMemo } from 'react';
import type { ImageReading } from '../../../core/measure/image';
import { spreadOf } from '../../../core/measure/spread';
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

/** What the correlation is of: everything, or one of the bands. */
export type CorrelationOf = 'all' | number;

/** Names of everything and of each band of the lane. */
function useNames(): string[] {
  const crossovers = useLane((state) => state.version.lane.crossovers);
  const count = crossovers.frequenciesHz.length + 1;
  return [
    'all',
    ...Array.from({ length: count }, (_, band) => {
      const [from, to] = bandEdges(crossovers, band);
      return to === Infinity ? `> ${hertz(from)}` : `< ${hertz(to)}`;
    }),
  ];
}

const placeOf = (of: CorrelationOf) => (of === 'all' ? 0 : of + 1);

/** A mark on a scale from −1 to +1. */
function Mark({ from, to, height, color }: { from: number; to: number; height: number; color: string }) {
  return (
    <Box
      sx={{ position: 'absolute', top: `calc(50% - ${height / 2}px)`, height, bgcolor: color, borderRadius: 0.5 }}
      style={{ left: `${50 + from * 50}%`, width: `max(2px, ${(to - from) * 50}%)` }}
    />
  );
}

/**
 * Correlation of everything and of each band on scales from −1 to +1: typical values as a bar between their extremes over
 * the whole track, and while playing where it is now. A press shows one of them over time.
 */
export function CorrelationBars({
  index,
  of,
  onChoose,
}: {
  index: number;
  of: CorrelationOf;
  onChoose: (of: CorrelationOf) => void;
}) {
  const readings = useLiveReadings();
  const playing = useTransport((state) => state.playing);
  const image = useMeasurements((state) => state.measurement?.images[index]?.after);
  const spreads = useMemo(
    () => (image ? [image.correlation, ...image.bands].map((values) => spreadOf(values)) : []),
    [image],
  );
  return (
    <Box
      component="ul"
      aria-label="Correlation"
      sx={{ m: 0, p: 1, fontSize: 12, display: 'grid', alignContent: 'center', listStyle: 'none' }}
    >
      <Box component="li" sx={{ color: 'text.secondary', mb: 0.5 }}>
        Correlation, {playing ? 'now' : 'whole track'}
      </Box>
      {useNames().map((name, i) => {
        const spread = spreads[i];
        const live = playing ? readings?.correlations[i] : undefined;
        const value = playing ? (live ?? NaN) : (spread?.median ?? NaN);
        const known = !Number.isNaN(value);
        const low = known && value < LOW_CORRELATION;
        const row: CorrelationOf = i === 0 ? 'all' : i - 1;
        return (
          <li key={name}>
            <Box
              component="button"
              aria-pressed={of === row}
              title="Shows this over time"
              onClick={() => onChoose(row)}
              sx={{
                ...{ display: 'grid', gridTemplateColumns: '48px 1fr 44px', alignItems: 'center', gap: 0.75 },
                ...{
                  width: '100%',
                  minHeight: 24,
                  p: 0,
                  border: 0,
                  font: 'inherit',
                  color: 'inherit',
                  cursor: 'pointer',
                },
                bgcolor: of === row ? 'lane.sunken' : 'transparent',
              }}
            >
              <Box component="span" sx={{ color: 'text.secondary', whiteSpace: 'nowrap', textAlign: 'left', pl: 0.5 }}>
                {name}
              </Box>
              <Box sx={{ position: 'relative', height: 12, bgcolor: 'divider', borderRadius: 0.5 }}>
                {spread && <Mark from={spread.least} to={spread.most} height={3} color="text.secondary" />}
                {spread && <Mark from={spread.lower} to={spread.upper} height={8} color="success.main" />}
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
                {playing && known && (
                  <Mark from={value} to={value} height={16} color={low ? 'error.main' : 'text.primary'} />
                )}
              </Box>
              <Box
                component="span"
                sx={{ m: 0, fontFamily: FIGURE_FACE, textAlign: 'right', color: low ? 'error.main' : undefined }}
              >
                {known ? change(value, 2) : '–'}
              </Box>
            </Box>
          </li>
        );
      })}
    </Box>
  );
}

/** Correlation over the whole track before the stage and after it, of everything or of one band. */
export function CorrelationOverTime({ index, of }: { index: number; of: CorrelationOf }) {
  const palette = usePalette();
  const images = useMeasurements((state) => state.measurement?.images[index]);
  const name = useNames()[placeOf(of)] ?? '';
  const pick = ({ correlation, bands }: ImageReading) => (of === 'all' ? correlation : bands[of]);
  const values = images && { before: pick(images.before), after: pick(images.after) };
  const draw: Draw = (surface) =>
    drawCorrelation(
      surface,
      { values: values?.after ? values : null, name: of === 'all' ? name : `${name} Hz` },
      palette,
    );
  return <Picture label="Correlation over time" draw={draw} />;
}
