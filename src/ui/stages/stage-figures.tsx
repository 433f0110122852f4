'use client';

import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import { STALE, useStale } from '../track/stale';

/** What a stage did over the whole track, with a hint; while that is measured again the figures look old and give no hints. */
export function StageFigures({ label, children, hint }: { label: string; children: ReactNode; hint?: ReactNode }) {
  const stale = useStale();
  return (
    <>
      <Box
        component="dl"
        aria-label={label}
        sx={{ m: 0, fontSize: 12.5, ...(stale && { ...STALE, '& dd': { color: 'text.secondary' } }) }}
      >
        {children}
      </Box>
      {hint && !stale && (
        <Box role="note" sx={{ fontSize: 12.5, color: 'text.secondary' }}>
          ▲ {hint}
        </Box>
      )}
    </>
  );
}
