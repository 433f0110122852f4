'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { THIRD_OCTAVES_HZ } from '../../core/measure/balance';
import { figure, hertz } from '../kit/format';
import { usePalette } from '../theme/use-palette';
import type { LaidOutTrack } from './sequence';

const BANDS = THIRD_OCTAVES_HZ.length;
/** dB at the edges of the pictures. */
const BALANCE_DB = 9;
const WIDEST_DB = 0;
const NARROWEST_DB = -36;

type Series = (number | null)[];
const known = (values: (number | null | undefined)[]) => values.filter((value) => typeof value === 'number');
const mean = (values: number[]) => (values.length > 0 ? values.reduce((sum, x) => sum + x, 0) / values.length : null);

interface Described {
  title: string;
  /** dB against the mean of the release, each at the same overall level. */
  balance: Series;
  /** Side against mid, dB. */
  width: Series;
}

/** Balance of each track against the mean of them all, and width; tracks without figures are left out. */
function described(laidOut: LaidOutTrack[]): Described[] {
  const measured = laidOut.flatMap(({ track }) => {
    const bands = track.master?.summary?.balance;
    if (!bands) return [];
    const level = mean(known(bands.map(({ levelDbfs }) => levelDbfs))) ?? 0;
    return [
      {
        title: `${track.position} · ${track.title}`,
        levels: bands.map(({ levelDbfs }) => (levelDbfs === null ? null : levelDbfs - level)),
        width: bands.map(({ sideDb }) => sideDb),
      },
    ];
  });
  const means = Array.from({ length: BANDS }, (_, i) => mean(known(measured.map(({ levels }) => levels[i]))));
  return measured.map(({ title, levels, width }) => ({
    title,
    width,
    balance: levels.map((level, i) => (level === null || means[i] === null ? null : level - means[i])),
  }));
}

function Line({
  values,
  low,
  high,
  zero,
  color,
  label,
}: {
  values: Series;
  low: number;
  high: number;
  zero: number;
  color: string;
  label: string;
}) {
  const { hairline } = usePalette();
  const y = (value: number) => (1 - (Math.max(low, Math.min(high, value)) - low) / (high - low)) * 40;
  const points = values.flatMap((value, i) => (value === null ? [] : [`${i},${y(value)}`]));
  return (
    <Box
      component="svg"
      role="img"
      aria-label={label}
      viewBox={`0 0 ${BANDS - 1} 40`}
      preserveAspectRatio="none"
      sx={{
        display: 'block',
        width: '100%',
        height: 44,
        bgcolor: 'background.paper',
        border: 1,
        borderColor: 'divider',
      }}
    >
      <line x1={0} x2={BANDS - 1} y1={y(zero)} y2={y(zero)} stroke={hairline} vectorEffect="non-scaling-stroke" />
      <polyline
        points={points.join(' ')}
        fill="none"
        stroke={color}
        strokeWidth={1.6}
        vectorEffect="non-scaling-stroke"
      />
    </Box>
  );
}

/** Where a series is furthest from nothing, in words. */
function furthest(values: Series): string {
  let at = -1;
  values.forEach((value, i) => {
    if (value !== null && (at < 0 || Math.abs(value) > Math.abs(values[at]!))) at = i;
  });
  if (at < 0) return 'not measured';
  const value = values[at]!;
  return `${figure(Math.abs(value))} dB ${value < 0 ? 'less' : 'more'} around ${hertz(THIRD_OCTAVES_HZ[at])}${THIRD_OCTAVES_HZ[at] < 1000 ? ' ' : ''}Hz`;
}

/** Balance and width of the loudest passage of every track, side by side. */
export function BalancePictures({ laidOut }: { laidOut: LaidOutTrack[] }) {
  const { patina, copper } = usePalette();
  const tracks = described(laidOut);
  if (tracks.length < 2) return null;
  return (
    <Box component="section" aria-label="Balance and width">
      <Typography variant="h3" component="h2" sx={{ mt: 1, mb: 0.5 }}>
        Balance and width of the loudest passages
      </Typography>
      <Typography color="textSecondary" sx={{ mb: 1 }}>
        By third-octaves from 25 Hz to 20 kHz. Balance against the mean of the release, ±{BALANCE_DB} dB; width as side
        against mid, {figure(NARROWEST_DB, 0)} to {WIDEST_DB} dB.
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', sm: 'minmax(120px, 190px) minmax(0, 1fr) minmax(0, 1fr)' },
          columnGap: 2,
          rowGap: 0.75,
          alignItems: 'center',
        }}
      >
        {tracks.map(({ title, balance, width }) => (
          <Box key={title} sx={{ display: 'contents' }}>
            <Box>
              <Box sx={{ fontWeight: 600 }}>{title}</Box>
              <Box sx={{ color: 'text.secondary', fontSize: 12.5 }}>{furthest(balance)}</Box>
            </Box>
            <Line
              {...{ values: balance, low: -BALANCE_DB, high: BALANCE_DB, zero: 0, color: patina }}
              label={`Balance of ${title}: ${furthest(balance)} than the mean`}
            />
            <Line
              {...{ values: width, low: NARROWEST_DB, high: WIDEST_DB, zero: WIDEST_DB, color: copper }}
              label={`Width of ${title}`}
            />
          </Box>
        ))}
      </Box>
    </Box>
  );
}
