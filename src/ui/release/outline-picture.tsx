'use client';

import Box from '@mui/material/Box';
import { type MasterSummary, OUTLINE_COLUMNS } from '../../core/measure/master-summary';
import { usePalette } from '../theme/use-palette';

/** Points of one edge of an outline, in a box from 0 to the number of columns and from −1 to 1, which points down. */
function edge(outline: number[], which: 0 | 1): string[] {
  return Array.from({ length: OUTLINE_COLUMNS }, (_, x) => {
    const value = Math.max(-1.05, Math.min(1.05, outline[x * 2 + which]));
    return `${x + 0.5},${-value}`;
  });
}

/** A track at a glance: the master's body, and over it the outline of the mix. */
export function OutlinePicture({
  outlines: { mix, master },
  title,
}: {
  outlines: MasterSummary['outlines'];
  title: string;
}) {
  const { copper, patina } = usePalette();
  return (
    <Box
      component="svg"
      role="img"
      aria-label={`Waveform of ${title}: mix and master`}
      viewBox={`0 -1.05 ${OUTLINE_COLUMNS} 2.1`}
      preserveAspectRatio="none"
      sx={{ display: 'block', width: '100%', height: 64 }}
    >
      <polygon points={[...edge(master, 1), ...edge(master, 0).reverse()].join(' ')} fill={patina} opacity={0.72} />
      {([1, 0] as const).map((which) => (
        <polyline
          key={which}
          points={edge(mix, which).join(' ')}
          fill="none"
          stroke={copper}
          strokeWidth={1.1}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </Box>
  );
}
